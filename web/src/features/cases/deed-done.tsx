import type { Deed, useDeed } from "../../api/several";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { counted } from "../../ui/numbers";

type Done = NonNullable<ReturnType<typeof useDeed>["data"]>;

/** What was done, in words. */
function said(deed: Deed, number: string): string {
  switch (deed.kind) {
    case "delete":
      return deed.called ? `“${deed.called}” is in the bin.` : `${number} in the bin.`;
    case "undelete":
      return `${number} brought back.`;
    case "tag":
      return deed.add.length
        ? `Tag “${deed.add.join(", ")}” put on ${number}.`
        : `Tag “${deed.takeOff.join(", ")}” taken off ${number}.`;
  }
}

/** What takes it back; nothing where it took something back itself. */
function undoing({ deed, changed: cases }: Done): Deed | undefined {
  if (!cases.length) return undefined;
  switch (deed.kind) {
    case "delete":
      return { kind: "undelete", cases };
    case "undelete":
      return undefined;
    case "tag":
      return { kind: "tag", cases, add: deed.takeOff, takeOff: deed.add };
  }
}

/** What was just done to the cases picked, with a way back. */
export function DeedDone({ done, onUndo }: { done: Done; onUndo: (deed: Deed) => void }) {
  const { marks } = useDesk();
  const undo = undoing(done);
  return (
    <p role="status" className="mt-1 text-sm">
      {said(done.deed, counted(done.changed.length, "case", marks))}
      {done.left > 0 &&
        ` ${counted(done.left, "case", marks)} of a colleague, or gone: as before.`}{" "}
      {undo && (
        <Button look="link" autoFocus={done.deed.kind === "delete"} onClick={() => onUndo(undo)}>
          Undo
        </Button>
      )}
    </p>
  );
}
