import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { isUnderWay, tableKey, useStopTable, useTableProgress } from "../../api/tables";
import type { TableOpened } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { inMarks } from "../../ui/numbers";
import { Wrong } from "../../ui/wrong";
import { FirstRows } from "./result";
import { t } from "../../texts";

/** How long something takes, in words. */
function duration(seconds: number): string {
  if (seconds < 1) return t("a moment");
  if (seconds < 90) return t("{seconds} seconds", { seconds: Math.ceil(seconds) });
  return t("{minutes} minutes", { minutes: Math.ceil(seconds / 60) });
}

/** Seconds after which it is known how fast it goes: the first rows are few, to be seen at once. */
const LONG_ENOUGH = 2;

/** The work under way: rows done, how fast, how much longer, and the rows that came first. */
export function Progress({ table }: { table: TableOpened }) {
  const { marks } = useDesk();
  const queries = useQueryClient();
  const [now, setNow] = useState(() => Date.now());
  const progress = useTableProgress(table, () => setNow(Date.now()));
  const told = progress.data ?? table;
  const ended = !isUnderWay(told.state);
  useEffect(() => {
    if (ended) void queries.invalidateQueries({ queryKey: tableKey(table.id) });
  }, [ended, queries, table.id]);
  const cancel = useStopTable(table.id);
  const seconds = told.began_at ? (now - new Date(told.began_at).getTime()) / 1000 : 0;
  const rate = seconds > LONG_ENOUGH && told.done ? told.done / seconds : 0;
  return (
    <>
      <section aria-label={t("Progress")} className="mt-6 max-w-2xl">
        <p role="status" className="font-serif text-xl">
          {told.says}
        </p>
        <progress
          aria-label={t("Rows done")}
          className="mt-2 h-3 w-full"
          value={told.done}
          max={told.rows}
        />
        <p className="mt-1 text-soft">
          {rate > 0
            ? t("{rate} rows a second, about {duration} more.", {
                rate: inMarks(rate.toFixed(0), marks),
                duration: duration((told.rows - told.done) / rate),
              })
            : told.done
              ? t("How long it takes is told in a moment.")
              : t("It begins in a moment.")}{" "}
          {t("You may leave this page: the work goes on.")}
        </p>
        <Button className="mt-3" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
          {t("Cancel")}
        </Button>
        <Wrong error={progress.error ?? cancel.error} />
      </section>
      {told.done > 0 && <FirstRows table={table} />}
    </>
  );
}
