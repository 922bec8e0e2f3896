import { Tooltip } from "radix-ui";
import { useEffect, useEffectEvent, useId, type RefObject } from "react";
import { useGlossary } from "../api/glossary";

interface Props {
  of: readonly string[];
  /** What is explained. */
  box: RefObject<HTMLElement | null>;
  /** The part of the page in which that stands. */
  place: HTMLElement | null;
  onOpen: (open: boolean) => void;
}

/** What words mean, over the page beside where they stand. */
export function Hinted({ of, box, place, onOpen }: Props) {
  const id = useId();
  const { data } = useGlossary();
  const terms = of.flatMap((name) => data?.find((term) => term.name === name) ?? []);
  useEffect(() => {
    const described = box.current?.querySelector("button, a");
    described?.setAttribute("aria-describedby", id);
    return () => described?.removeAttribute("aria-describedby");
  }, [box, id]);
  const elsewhere = useEffectEvent(() => {
    if (!place?.contains(document.activeElement)) onOpen(false);
  });
  useEffect(() => {
    // Whoever types in another part of the page means that one: its Esc is not taken by a word
    // under a pointer that rests.
    addEventListener("keydown", elsewhere, true);
    return () => removeEventListener("keydown", elsewhere, true);
  }, []);
  if (!terms.length) return null;
  return (
    <Tooltip.Provider>
      <Tooltip.Root open onOpenChange={onOpen}>
        <Tooltip.Trigger asChild>
          <span aria-hidden className="pointer-events-none absolute inset-0" />
        </Tooltip.Trigger>
        <Tooltip.Portal container={place}>
          <Tooltip.Content
            id={id}
            side="bottom"
            align="start"
            sideOffset={6}
            collisionPadding={8}
            className="z-50 max-w-[min(24rem,calc(100vw-1rem))] rounded-md bg-ink px-3 py-2 font-sans text-sm leading-snug font-normal text-paper shadow-xl"
          >
            {terms.map((term) => (
              <p key={term.name} className="not-first:mt-1.5">
                <b>{term.title}:</b> {term.says}
              </p>
            ))}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
