import { useMemo, useState } from "react";
import { Refused } from "../../api/client";
import { useSaveMatching, useTableReading } from "../../api/tables";
import type { Defaults, TableOpened, TemplateFitted } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useKeys } from "../../hooks/use-keys";
import { Button } from "../../ui/button";
import { countedRows } from "../../ui/numbers";
import { Wrong } from "../../ui/wrong";
import { Columns } from "./columns";
import { WhereNoColumnSaysSo } from "./defaults";
import { Questions } from "./questions";
import { Templates } from "./templates";
import { t } from "../../texts";

/** What a table is to be taken for, as it stands on the page. */
function useMatching(table: TableOpened) {
  const [columns, setColumns] = useState(table.columns);
  const [defaults, setDefaults] = useState<Defaults>(table.defaults);
  const [answered, setAnswered] = useState<string[]>(table.defaults_said);
  const looked = useTableReading(table.id, columns);
  const save = useSaveMatching(table.id);
  const questions = looked.data?.questions ?? [];
  const follows = (looked.data?.defaults ?? {}) as Partial<Defaults>;
  const set = (changed: Partial<Defaults>) => {
    setDefaults((now) => ({ ...now, ...changed }));
    setAnswered((now) => [...new Set([...now, ...Object.keys(changed)])]);
  };
  const take = (template: TemplateFitted) => {
    setColumns(template.places);
    setDefaults(template.defaults);
    setAnswered(Object.keys(template.settings));
  };
  const stated = () => {
    const stated: Partial<Defaults> = {};
    for (const [name, value] of Object.entries({ ...defaults, ...follows })) {
      const asked = questions.some((question) => question.about === name);
      // What has to be asked is only sent where it was answered here.
      if (!asked || answered.includes(name)) Object.assign(stated, { [name]: value });
    }
    return { columns, defaults: stated as Defaults };
  };
  // Until its cells are looked at it is not known what has to be asked: nothing is guessed.
  const waits = save.isPending || looked.isFetching;
  const work = () => {
    if (!waits) save.mutate(stated());
  };
  return {
    ...{ columns, setColumns, defaults, answered, looked, save, questions, follows },
    ...{ set, take, stated, work, waits },
  };
}

/** Which column is which figure, what holds for every row, and what has to be asked. */
export function Matching({ table }: { table: TableOpened }) {
  const { marks } = useDesk();
  const matching = useMatching(table);
  const { columns, setColumns, defaults, answered, looked, save, questions } = matching;
  const { follows, set, take, stated, work, waits } = matching;
  useKeys(useMemo(() => [{ key: "s", run: work }], [work]));
  const wrong = save.error instanceof Refused ? save.error.errors : [];
  return (
    <section aria-label={t("Columns")}>
      {table.notes.map((note) => (
        <p key={note} className="mt-2 text-soft">
          {note}
        </p>
      ))}
      <Columns
        table={table}
        columns={columns}
        asked={looked.data?.asked ?? []}
        beside={<Templates table={table} matched={stated()} onTake={take} />}
        onColumns={setColumns}
      />
      <Questions
        questions={questions}
        defaults={defaults}
        answered={answered}
        wrong={wrong}
        onAnswer={set}
      />
      <WhereNoColumnSaysSo
        defaults={defaults}
        asksMarks={
          !questions.some((question) => question.about === "marks") && follows.marks === undefined
        }
        isDated={columns.start !== undefined}
        onChange={set}
      />
      <Wrong error={looked.error ?? save.error} className="mt-4" />
      <Button look="main" className="mt-5" disabled={waits} onClick={work}>
        {t("Solve {rows}", { rows: countedRows(table.rows, marks) })}
      </Button>
    </section>
  );
}
