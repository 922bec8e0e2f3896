import { DropdownMenu } from "radix-ui";
import { useEffect, useRef, type ReactNode } from "react";
import type { Action } from "./menu";
import type { Opened } from "./opening";
import type { Choosable } from "./quoting";

interface Props extends Opened {
  align: "start" | "end";
  className?: string;
  children: ReactNode;
}

/** A list under the button that opens it. */
function List({ open, onOpen, by, byKey, align, className = "", children }: Props) {
  const outside = useRef(false);
  const entered = useRef(false);
  useEffect(() => {
    entered.current = false;
  }, [open]);
  return (
    <DropdownMenu.Root open={open} onOpenChange={onOpen} modal={false}>
      {/* The button itself opens the list; this only tells where it stands. */}
      <DropdownMenu.Trigger
        asChild
        type={undefined}
        aria-haspopup={undefined}
        aria-expanded={undefined}
        aria-controls={undefined}
      >
        <span aria-hidden className="pointer-events-none absolute inset-0" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          aria-labelledby={by}
          align={align}
          sideOffset={6}
          collisionPadding={8}
          className={`z-50 max-h-[min(22rem,var(--radix-dropdown-menu-content-available-height))] overflow-auto rounded-md border border-rule bg-sheet py-1 font-sans text-base text-ink shadow-xl ${className}`}
          onFocus={(event) => {
            const list = event.currentTarget;
            if (!byKey || entered.current || event.target !== list) return;
            entered.current = true;
            // The list's own way, to its first, is not gone.
            event.preventDefault();
            const items = [...list.querySelectorAll<HTMLElement>("[role^=menuitem]")];
            (items.find((each) => each.ariaChecked === "true") ?? items[0])?.focus();
          }}
          onInteractOutside={() => {
            outside.current = true;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            // What was chosen may have taken the focus on: to a field it brought.
            const isGone = document.activeElement === document.body;
            if (!outside.current && isGone) document.getElementById(by)?.focus();
            outside.current = false;
          }}
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const ACTION =
  "block w-full cursor-pointer px-4 py-1.5 text-left outline-none data-highlighted:bg-paper";

/** Things to do. */
export function ActionList({ actions, ...opened }: Opened & { actions: readonly Action[] }) {
  return (
    <List {...opened} align="end" className="min-w-44">
      {actions.map(({ label, run, href }) =>
        href ? (
          <DropdownMenu.Item key={label} asChild className={ACTION}>
            <a href={href} download>
              {label}
            </a>
          </DropdownMenu.Item>
        ) : (
          <DropdownMenu.Item key={label} className={ACTION} onSelect={run}>
            {label}
          </DropdownMenu.Item>
        ),
      )}
    </List>
  );
}

const CHOICE =
  "flex cursor-pointer items-center gap-2 px-3 py-1 outline-none data-highlighted:bg-paper";

function Mark({ on }: { on: boolean }) {
  return (
    <span aria-hidden className="w-3 text-choice">
      {on ? "✓" : ""}
    </span>
  );
}

interface ChoiceListProps extends Opened {
  value: string;
  options: readonly Choosable[];
  onChoose: (value: string) => void;
}

/** One of several, some of them under a heading. */
export function ChoiceList({ value, options, onChoose, ...opened }: ChoiceListProps) {
  return (
    <List {...opened} align="start" className="min-w-48">
      <DropdownMenu.RadioGroup value={value} onValueChange={onChoose}>
        {options.map((option) => (
          <div key={option.value}>
            {option.under && (
              <DropdownMenu.Label className="px-3 pt-2 pb-0.5 text-sm text-soft">
                {option.under}
              </DropdownMenu.Label>
            )}
            <DropdownMenu.RadioItem
              value={option.value}
              className={`${CHOICE} data-[state=checked]:font-semibold`}
            >
              <Mark on={option.value === value} />
              {option.label}
            </DropdownMenu.RadioItem>
          </div>
        ))}
      </DropdownMenu.RadioGroup>
    </List>
  );
}

interface CheckListProps<V extends string> extends Opened {
  options: readonly { value: V; label: string | undefined; on: boolean }[];
  onToggle: (value: V) => void;
}

/** Any of several; it stays open while they are ticked. */
export function CheckList<V extends string>({ options, onToggle, ...opened }: CheckListProps<V>) {
  return (
    <List {...opened} align="end" className="min-w-44">
      {options.map(({ value, label, on }) => (
        <DropdownMenu.CheckboxItem
          key={value}
          checked={on}
          onCheckedChange={() => onToggle(value)}
          onSelect={(event) => event.preventDefault()}
          className={CHOICE}
        >
          <Mark on={on} />
          {label}
        </DropdownMenu.CheckboxItem>
      ))}
    </List>
  );
}
