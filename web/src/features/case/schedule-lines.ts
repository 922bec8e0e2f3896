import { useState } from "react";
import type { Answer, LeftOver, MarksWord, ScheduleColumns, Words } from "../../api/types";
import { inMarks } from "../../ui/numbers";
import { isOfDays, textAt } from "./columns";

export type Year = Answer["by_year"][number];
/** A year by its place in the list, a payment by its place, or what is left at the end. */
export type Line =
  | { year: Year; at: number; open: boolean }
  | { place: number }
  | { left: LeftOver }
  | { whole: Year };

const KEPT = "zephyrant-columns";

/** The lines that can be seen: years, and the payments of those that are unfolded. */
export function linesOf(
  years: readonly Year[],
  left: LeftOver | null,
  whole: Year | null,
  isOpen: (year: number) => boolean,
): Line[] {
  const lines: Line[] = [];
  let place = 0;
  years.forEach((year, at) => {
    const open = isOpen(at);
    lines.push({ year, at, open });
    for (let row = 0; open && row < year.rows; row += 1) lines.push({ place: place + row });
    place += year.rows;
  });
  if (left) lines.push({ left });
  if (whole) lines.push({ whole });
  return lines;
}

/** What a line is known by. */
export const keyOf = (line: Line): string =>
  "year" in line
    ? `year ${line.at}`
    : "place" in line
      ? `row ${line.place}`
      : Object.keys(line).join();

/** The columns a schedule has, those that are shown, and the way to show or hide one; kept in this
 *  browser. Payments are always told by their number. */
export function useColumns(columns: readonly string[]) {
  const [hidden, setHidden] = useState<readonly string[]>(() =>
    (localStorage.getItem(KEPT) ?? "").split(" ").filter(Boolean),
  );
  const all = columns.filter((column) => column !== "number");
  const toggle = (column: string) => {
    const next = hidden.includes(column)
      ? hidden.filter((each) => each !== column)
      : [...hidden, column];
    localStorage.setItem(KEPT, next.join(" "));
    setHidden(next);
  };
  return { all, shown: all.filter((column) => !hidden.includes(column)), toggle };
}

/** What stands in a column of a line, as a plain number or day; years and the whole tell what they
 *  add up to, and the whole no balances. */
export function cellOf(
  line: Exclude<Line, { left: LeftOver }>,
  column: string,
  columns: ScheduleColumns,
): string {
  if ("place" in line) return textAt(columns, column, line.place);
  if ("whole" in line && (column === "opening" || column.endsWith("closing"))) return "";
  const told: Record<string, unknown> = { ...("whole" in line ? line.whole : line.year) };
  const text = told[column];
  return typeof text === "string" ? text : "";
}

/** The visible columns as tab-separated text, every payment a line. */
export function asText(
  columns: ScheduleColumns,
  shown: readonly string[],
  words: Words,
  marks: MarksWord,
): string {
  const ungrouped = { ...marks, group: "" };
  const all = ["number", ...shown];
  const rows = columns.number.map((_, place) =>
    all.map((column) => {
      const text = textAt(columns, column, place);
      return isOfDays(column) ? text : inMarks(text, ungrouped);
    }),
  );
  const head = all.map((column) => words.columns[column] ?? column);
  return [head, ...rows].map((row) => row.join("\t")).join("\n");
}
