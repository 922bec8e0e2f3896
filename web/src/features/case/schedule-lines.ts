import { useState } from "react";
import type { Answer, LeftOver, MarksWord, Words } from "../../api/types";
import { inMarks } from "../../ui/numbers";

export type Year = Answer["by_year"][number];
export type Payment = Answer["schedule"][number];
/** A year with its payments, a payment, or what is left at the end. */
export type Line = { year: Year; payments: Payment[] } | { payment: Payment } | { left: LeftOver };

const KEPT = "zephyrant-columns";

/** The lines of a schedule, folded by year. */
export function linesOf(answer: Answer, left: LeftOver | null): Line[] {
  const lines: Line[] = answer.by_year.map((year) => ({
    year,
    payments: answer.schedule.filter(
      (payment) => year.first <= payment.number && payment.number <= year.last,
    ),
  }));
  return left ? [...lines, { left }] : lines;
}

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

/** What stands in a column of a line, as a plain number or day; years tell only what they add up
 *  to. */
export function cellOf(
  line: Exclude<Line, { left: LeftOver }>,
  column: string,
  carrying: readonly string[],
): string {
  if ("payment" in line && column === "carrying") return carrying[line.payment.number - 1] ?? "";
  const told: Record<string, unknown> = "year" in line ? { ...line.year } : { ...line.payment };
  const text = told[column];
  return typeof text === "string" ? text : "";
}

/** The visible columns as tab-separated text, every payment a line. */
export function asText(
  answer: Answer,
  columns: readonly string[],
  words: Words,
  marks: MarksWord,
): string {
  const ungrouped = { ...marks, group: "" };
  const all = ["number", ...columns];
  const rows = answer.schedule.map((payment) =>
    all.map((column) => {
      const text = cellOf({ payment }, column, answer.carrying);
      if (column === "number") return String(payment.number);
      return column === "date" ? text : inMarks(text, ungrouped);
    }),
  );
  const head = all.map((column) => words.columns[column] ?? column);
  return [head, ...rows].map((row) => row.join("\t")).join("\n");
}
