import { Dialog } from "radix-ui";
import { useRef, type ReactNode } from "react";
import { useFocusBack } from "../hooks/use-focus-back";
import { Button } from "./button";
import { t } from "../texts";

/** What one comes to type in: an area to paste into before a field. */
const TYPED = ["textarea", "input:not([type=file], [type=checkbox], [type=radio])"];

interface Props {
  title: string;
  about: string;
  open: boolean;
  onOpen: (open: boolean) => void;
  /** As wide as a table needs. */
  wide?: boolean;
  /** It asks for something: what is to be typed has the focus. */
  asks?: boolean;
  children: ReactNode;
}

/** A sheet over the right side of the page; what is under it stays usable. */
export function Sheet({ title, about, open, onOpen, wide = false, asks = false, children }: Props) {
  const focusBack = useFocusBack();
  const content = useRef<HTMLDivElement>(null);
  return (
    <Dialog.Root open={open} onOpenChange={onOpen} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          onCloseAutoFocus={focusBack.onCloseAutoFocus}
          onOpenAutoFocus={(event) => {
            focusBack.onOpenAutoFocus();
            if (!asks) return;
            const [field] = TYPED.flatMap((each) => [
              ...(content.current?.querySelectorAll<HTMLInputElement>(each) ?? []),
            ]);
            if (!field) return;
            event.preventDefault();
            field.focus();
            field.select();
          }}
          ref={content}
          onInteractOutside={(event) => event.preventDefault()}
          className={`fixed inset-y-0 right-0 z-40 flex flex-col overflow-auto border-l border-rule bg-sheet p-6 shadow-2xl ${wide ? "w-[min(58rem,100vw)]" : "w-[min(36rem,100vw)]"}`}
        >
          <div className="flex items-start justify-between gap-4">
            <Dialog.Title className="font-serif text-2xl font-semibold">{title}</Dialog.Title>
            <Dialog.Close asChild>
              <Button>{t("Close")}</Button>
            </Dialog.Close>
          </div>
          <Dialog.Description className="mt-1 text-soft">{about}</Dialog.Description>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
