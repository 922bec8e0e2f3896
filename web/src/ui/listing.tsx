import type { ReactNode } from "react";
import { Button } from "./button";
import { rich, t } from "../texts";

/** Things that are kept, one a line. */
export function Listing({ label, children }: { label: string; children: ReactNode }) {
  return (
    <ul aria-label={label} className="mt-4 rounded-lg border border-rule bg-sheet">
      {children}
    </ul>
  );
}

export function Listed({ children }: { children: ReactNode }) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-5 border-b border-rule px-4 py-2.5 last:border-0">
      {children}
    </li>
  );
}

/** What was just deleted, with a way back. */
export function InTheBin({ name, onUndo }: { name: string; onUndo: () => void }) {
  return (
    <p role="status" className="mt-3 rounded border border-rule bg-sheet px-4 py-2">
      {rich("“{name}” is in the bin. {undo}", {
        name,
        undo: (
          <Button look="link" onClick={onUndo}>
            {t("Undo")}
          </Button>
        ),
      })}
    </p>
  );
}
