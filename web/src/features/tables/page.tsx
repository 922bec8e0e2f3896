import { useState } from "react";
import { Link, useLocation, useParams } from "react-router";
import { isUnderWay, useTable } from "../../api/tables";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { CannotOpen } from "../../ui/cannot-open";
import { countedRows } from "../../ui/numbers";
import { Page } from "../../ui/page";
import { Flows } from "./flows";
import { Matching } from "./matching";
import { Progress } from "./progress";
import { Result } from "./result";
import { t } from "../../texts";

/** A table of loans: its columns to be matched, the work on it, or what came of it. */
export function TablePage() {
  const { id = "" } = useParams();
  const { marks } = useDesk();
  const showsFlows = useLocation().pathname.endsWith("/flows");
  const [again, setAgain] = useState<string | null>(null);
  const opened = useTable(id);
  if (opened.error)
    return (
      <CannotOpen
        what={t("This table cannot be opened")}
        why={opened.error.message}
        to="/tables"
        list={t("To your tables")}
      />
    );
  const table = opened.data;
  if (!table) return <main className="p-8 text-soft">{t("Opening the table …")}</main>;
  const isDone = table.state === "done";
  const rematching = again === table.asked_at && isDone;
  return (
    <Page title={table.name}>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="font-serif text-2xl font-semibold break-words">{table.name}</h1>
        <span className="text-soft">
          {countedRows(table.rows, marks)}
          {/* How far it is changes while it is worked, and is told below. */}
          {!isUnderWay(table.state) && `, ${table.says}`}
        </span>
        <span className="ml-auto flex gap-4 text-sm">
          {isDone && !rematching && (
            <Link
              className="text-choice underline"
              to={showsFlows ? `/tables/${id}` : `/tables/${id}/flows`}
            >
              {showsFlows ? t("Row by row") : t("What it moves, by period")}
            </Link>
          )}
          {isDone && (
            <Button look="link" onClick={() => setAgain(rematching ? null : table.asked_at)}>
              {rematching ? t("Back to the result") : t("Match its columns anew")}
            </Button>
          )}
          <Link className="text-choice underline" to="/tables">
            {t("All tables")}
          </Link>
        </span>
      </div>
      {isUnderWay(table.state) ? (
        <Progress table={table} />
      ) : isDone && !rematching ? (
        <>{showsFlows ? <Flows table={table} /> : <Result table={table} />}</>
      ) : (
        <Matching key={`${table.id} ${table.state}`} table={table} />
      )}
    </Page>
  );
}
