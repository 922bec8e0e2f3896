import { useMemo, useState } from "react";
import { useWork } from "../../api/asking";
import type { Answer, ScheduleColumns, Statement, Told, Worked } from "../../api/types";
import { useNewest } from "../../hooks/use-newest";

/** A statement worked that has an answer. */
export type Good = Worked & { answer: Answer; told: Told };
/** One that has a schedule. */
export type LaidOut = Good & { schedule: ScheduleColumns };

export const isLaidOut = (good: Good | undefined): good is LaidOut => Boolean(good?.schedule);

const isGood = (worked: Worked | undefined): worked is Good =>
  Boolean(worked?.answer && worked.told);

interface WorkedNow {
  worked: Worked | undefined;
  /** Whether `worked` belongs to the statement as it stands. */
  current: boolean;
  failed: Error | null;
  /** The last one that had an answer, while what is typed has none. */
  good: Good | undefined;
  /** Whether that is the answer to what stood here before. */
  stale: boolean;
}

/** The statement worked by the server, following every keystroke. */
export function useWorked(statement: Statement, yearStarts: number | null): WorkedNow {
  const question = useMemo(() => ({ statement, yearStarts }), [statement, yearStarts]);
  const { found: query, current } = useNewest(question, useWork);
  const worked = query.data;
  const [last, setLast] = useState<Good>();
  if (isGood(worked) && worked !== last) setLast(worked);
  return {
    worked,
    current,
    failed: query.error,
    good: isGood(worked) ? worked : last,
    stale: query.error !== null || (worked !== undefined && !worked.answer),
  };
}
