import type { Deed, useDeed } from "../../api/several";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { countedCases } from "../../ui/numbers";
import { t } from "../../texts";

type Done = NonNullable<ReturnType<typeof useDeed>["data"]>;

/** What was done, in words. */
function said(deed: Deed, number: string): string {
  switch (deed.kind) {
    case "delete":
      return deed.called
        ? t("“{called}” is in the bin.", { called: deed.called })
        : t("{number} in the bin.", { number });
    case "undelete":
      return t("{number} brought back.", { number });
    case "tag":
      return deed.add.length
        ? t("Tag “{add}” put on {number}.", { add: deed.add.join(", "), number })
        : t("Tag “{takeOff}” taken off {number}.", { takeOff: deed.takeOff.join(", "), number });
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
      {(done.changed.length > 0 || done.left === 0) &&
        said(done.deed, countedCases(done.changed.length, marks))}
      {done.left > 0 &&
        ` ${t("{left} of a colleague, in review, approved or gone: as before.", { left: countedCases(done.left, marks) })}`}{" "}
      {undo && (
        <Button look="link" autoFocus={done.deed.kind === "delete"} onClick={() => onUndo(undo)}>
          {t("Undo")}
        </Button>
      )}
    </p>
  );
}
