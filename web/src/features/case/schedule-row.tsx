import type { CSSProperties } from "react";
import type { ScheduleColumns } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { useDays } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { cellOf, type Line, type Year } from "./schedule-lines";
import { isOfDays } from "./columns";
import { t } from "../../texts";

interface Props {
  line: Line;
  onToggle: (year: number) => void;
  index: number;
  columns: readonly string[];
  /** Whether years are those of the calendar. */
  calendar: boolean;
  marked: readonly [number, number] | null;
  /** The payment that was gone to. */
  gone: number | null;
  schedule: ScheduleColumns;
  className: string;
  style: CSSProperties;
}

interface YearProps {
  year: Year;
  open: boolean;
  calendar: boolean;
  onToggle: () => void;
}

function YearCell({ year, open, calendar, onToggle }: YearProps) {
  return (
    <Button
      look="bare"
      className="text-left font-semibold whitespace-nowrap"
      aria-expanded={open}
      onClick={onToggle}
    >
      <span aria-hidden className="inline-block w-4">
        {open ? "▾" : "▸"}
      </span>
      {calendar ? year.label : t("Year {year}", { year: year.label })}{" "}
      <span className="ml-1 text-sm font-normal text-soft">
        {year.first === year.last ? year.first : `${year.first}–${year.last}`}
      </span>
    </Button>
  );
}

/** An amount of nothing, which stands back. */
const NOTHING = /^0(\.0*)?$/;

/** A line of the schedule: a year, a payment, or what is left at the end. */
export function ScheduleRow(props: Props) {
  const { line, onToggle, index, columns, calendar, marked, gone, schedule, className, style } =
    props;
  const { marks } = useDesk();
  const { day } = useDays();
  const common = { role: "row", "aria-rowindex": index + 2, style };
  if ("left" in line)
    return (
      <div {...common} className={`${className} bg-paper font-semibold`}>
        <div role="cell" style={{ gridColumn: `1 / ${columns.length + 1}` }}>
          <span className="pl-4">{line.left.title}</span>
        </div>
        <div role="cell" className="text-right">
          {line.left.text}
        </div>
      </div>
    );
  const number = "place" in line ? (schedule.number[line.place] ?? 0) : 0;
  const inside = marked !== null && marked[0] <= number && number <= marked[1];
  const isSum = "year" in line || "whole" in line;
  const tone = isSum ? "bg-paper font-semibold" : inside ? "bg-choice/10" : "";
  const here = number && number === gone ? "outline-2 -outline-offset-2 outline-focus" : "";
  return (
    <div {...common} className={`${className} ${tone} ${here}`}>
      <div role="cell">
        {"year" in line ? (
          <YearCell
            year={line.year}
            open={line.open}
            calendar={calendar}
            onToggle={() => onToggle(line.at)}
          />
        ) : (
          <span className={`pl-4 ${isSum ? "" : "text-soft"}`}>{isSum ? t("In all") : number}</span>
        )}
      </div>
      {columns.map((id) => {
        const text = cellOf(line, id, schedule);
        return (
          <div
            role="cell"
            key={id}
            className={`truncate text-right ${NOTHING.test(text) ? "font-normal text-soft" : ""}`}
          >
            {isOfDays(id) ? text && day(text) : inMarks(text, marks)}
          </div>
        );
      })}
    </div>
  );
}
