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
import { useNewVersion } from "./use-started";
import type { SheetName } from "./use-sheet";
import { t } from "../../texts";

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
  const renew = useNewVersion(opened.id, content);
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
            name={t("Name of the case")}
            placeholder={t("Name this case")}
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
            {opened.judging.may_renew ? (
              <Button look="link" onClick={() => renew.mutate()}>
                {t("Keep it as a new version")}
              </Button>
            ) : (
              <Button look="link" onClick={() => copy.mutate(opened.id)}>
                {t("Copy to my cases")}
              </Button>
            )}
          </Keeping>
          <Hint of={["what_if"]}>
            <Menu
              name={t("What if")}
              actions={[
                { label: t("What moves it …"), run: () => onSheet("moves") },
                { label: t("Paying more …"), run: () => onSheet("more") },
                { label: t("Points for a lower rate …"), run: () => onSheet("points") },
                { label: t("Settled early …"), run: () => onSheet("settled") },
                { label: t("Refinanced …"), run: () => onSheet("refinanced") },
              ]}
            >
              {t("What if")} <span aria-hidden>▾</span>
            </Menu>
          </Hint>
          <Hint of={["trail"]}>
            <Button look="quiet" onClick={() => onSheet("trail")}>
              {t("Trail")}
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
              {t("Side by side")}
            </Link>
          </Hint>
          <Hint of={["history"]}>
            <Button look="quiet" onClick={() => onSheet("history")}>
              {t("History")}
            </Button>
          </Hint>
          <Hint of={["review"]}>
            <Button look="quiet" onClick={() => onSheet("review")}>
              {t("Review")}
            </Button>
          </Hint>
          {!opened.owner && (
            <Button look="quiet" onClick={() => onSheet("share")}>
              {t("Share")}
            </Button>
          )}

          <Menu
            name={t("Export")}
            actions={[
              {
                label: t("Statement to file (PDF)"),
                run: takeOut(t("the statement"), "statement"),
              },
              {
                label: t("Schedule with live arithmetic (XLSX)"),
                run: takeOut(t("the workbook"), "schedule?kind=xlsx"),
              },
              { label: t("Schedule (CSV)"), run: takeOut(t("the schedule"), "schedule?kind=csv") },
              { label: t("Loan document (JSON)"), run: takeOut(t("the document"), "document") },
              { label: t("Hold theirs against ours …"), run: () => onSheet("against") },
            ]}
          >
            {t("Export")} <span aria-hidden>▾</span>
          </Menu>
        </div>
      </div>
      <Taking taking={taking} />
    </>
  );
}
