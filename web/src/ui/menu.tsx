import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export interface Action {
  label: string;
  run?: () => void;
  /** A file to take out, in place of something to do. */
  href?: string;
}

const ITEM =
  "block w-full cursor-pointer px-4 py-1.5 text-left outline-none data-highlighted:bg-paper";

/** A button that opens into a short list of things to do. */
export function Menu({
  name,
  children,
  actions,
}: {
  name: string;
  children: ReactNode;
  actions: readonly Action[];
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger aria-label={name} className="rounded px-1.5 hover:text-ink">
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="z-50 min-w-44 rounded-md border border-rule bg-sheet py-1 text-ink shadow-xl"
        >
          {actions.map(({ label, run, href }) =>
            href ? (
              <DropdownMenu.Item key={label} asChild className={ITEM}>
                <a href={href} download>
                  {label}
                </a>
              </DropdownMenu.Item>
            ) : (
              <DropdownMenu.Item key={label} className={ITEM} onSelect={run}>
                {label}
              </DropdownMenu.Item>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
