import { useMemo } from "react";
import type { ScheduleColumns, Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useWidth } from "../../hooks/use-width";
import { periodOf } from "../../ui/quoting";
import { draw } from "./drawing";

/** A schedule drawn as wide as the box it stands in. */
export function useDrawn(schedule: ScheduleColumns, statement: Statement) {
  const { words } = useDesk();
  const [box, width] = useWidth<HTMLDivElement>();
  const advance = statement.timing === "in-advance";
  const { a_year: aYear, noun } = periodOf(statement.every, words);
  const drawn = useMemo(
    () => draw(schedule, width, advance, aYear, noun),
    [schedule, width, advance, aYear, noun],
  );
  return { box, width, drawn, advance, aYear, count: schedule.number.length };
}
