import { Link, useNavigate } from "react-router";
import type { CaseOpened } from "../../api/types";
import { focusOn } from "../../hooks/focus";
import { useDesk } from "../../hooks/use-desk";
import { useExportKey } from "../../hooks/use-export-key";
import { useCopyCase } from "../../hooks/use-opened";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { Hint } from "../../ui/hint";
import { Keeping } from "../../ui/keeping";
import { Menu } from "../../ui/menu";
import { Taking, useTaking } from "../../ui/taking";
import { FIRST_FIGURE } from "./use-case-keys";
import type { CaseOnPage } from "./use-case";
import type { SheetName } from "./use-sheet";

interface Props {
  opened: CaseOpened;
  /** What the case is called. */
  called: string;
  onPage: CaseOnPage;
  onSheet: (name: SheetName) => void;
  /** What is asked beside the case is sent before its page is left. */
  sendAsides: () => void;
}

/** The name of a case, whether it is kept, and what can be done with it. */
export function CaseHead({ opened, called, onPage, onSheet, sendAsides }: Props) {
  const { words } = useDesk();
  const { content, keeping, change, flush } = onPage;
  const copy = useCopyCase();
  useExportKey();
  const navigate = useNavigate();
  // What stands here is saved first, so that what is exported is what is seen.
  const taking = useTaking(flush);
  const takeOut = (what: string, path: string) => () =>
    taking.take(what, `/api/v1/cases/${opened.id}/${path}`);
  const sideBySide = `/cases/${opened.id}/side-by-side`;
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h1 className="sr-only">{called}</h1>
        <div className="min-w-0 grow">
          <Field
            look="bare"
            name="Name of the case"
            placeholder="Name this case"
            value={content.statement.name}
            maxLength={words.limits.name}
            className="w-full max-w-2xl font-serif text-2xl font-semibold"
            onType={(name) => change({ name })}
            onEnter={() => focusOn(FIRST_FIGURE)}
            leaves
          />
        </div>
        <div className="flex flex-wrap items-baseline gap-x-5 text-sm text-soft">
          <Keeping keeping={keeping}>
            <Button look="link" onClick={() => copy.mutate(opened.id)}>
              Copy to my cases
            </Button>
          </Keeping>
          <Hint of={["what_if"]}>
            <Menu
              name="What if"
              actions={[
                { label: "What moves it …", run: () => onSheet("moves") },
                { label: "Paying more …", run: () => onSheet("more") },
                { label: "Points for a lower rate …", run: () => onSheet("points") },
                { label: "Settled early …", run: () => onSheet("settled") },
              ]}
            >
              What if <span aria-hidden>▾</span>
            </Menu>
          </Hint>
          <Hint of={["trail"]}>
            <Button look="quiet" onClick={() => onSheet("trail")}>
              Trail
            </Button>
          </Hint>
          <Hint of={["side_by_side"]}>
            <Link
              className="hover:text-ink"
              to={sideBySide}
              onClick={(event) => {
                event.preventDefault();
                // What is shown there is what is kept: kept first.
                sendAsides();
                void flush().then(() => navigate(sideBySide));
              }}
            >
              Side by side
            </Link>
          </Hint>
          <Hint of={["history"]}>
            <Button look="quiet" onClick={() => onSheet("history")}>
              History
            </Button>
          </Hint>
          {!opened.owner && (
            <Button look="quiet" onClick={() => onSheet("share")}>
              Share
            </Button>
          )}

          <Menu
            name="Export"
            actions={[
              {
                label: "Statement to file (PDF)",
                run: takeOut("the statement", "statement"),
              },
              {
                label: "Schedule with live arithmetic (XLSX)",
                run: takeOut("the workbook", "schedule?kind=xlsx"),
              },
              { label: "Schedule (CSV)", run: takeOut("the schedule", "schedule?kind=csv") },
              { label: "Loan document (JSON)", run: takeOut("the document", "document") },
              { label: "Hold theirs against ours …", run: () => onSheet("against") },
            ]}
          >
            Export <span aria-hidden>▾</span>
          </Menu>
        </div>
      </div>
      <Taking taking={taking} />
    </>
  );
}
