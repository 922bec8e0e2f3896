import { useState } from "react";
import type { TableOpened } from "../../api/types";

/** How wide columns are, in rem. */
export const WIDE = 9.4;
const WIDTHS: Record<string, number> = { row: 4.4, percent: 6.9, count: 6.9, problem: 26.25 };
export const widthOf = (name: string) => WIDTHS[name] ?? WIDE;

/** Where the answer of a row stands. */
const ANSWER = ["unknown", "found"];
/** What one looks at first. */
const OFTEN = [
  ...ANSWER,
  ...["principal", "percent", "count", "payment", "balance"],
  ...["effective", "total_interest", "final_payment", "eu_aprc"],
];

/** Where the columns chosen for files with these columns are kept. */
const keptAs = (table: TableOpened) =>
  `zephyrant-table-columns ${table.names.join(" ").slice(0, 400)}`;

function keptColumns(table: TableOpened): string[] {
  try {
    const kept = JSON.parse(localStorage.getItem(keptAs(table)) ?? "null") as unknown;
    if (Array.isArray(kept) && kept.length > 0) return kept.map(String);
  } catch {
    // What cannot be read is as if nothing was kept.
  }
  const called = table.columns.name;
  return ["row", ...(called === undefined ? [] : [`c${called}`]), ...OFTEN, "problem"];
}

/** The columns chosen for a result; kept in this browser. */
export function useShownColumns(table: TableOpened) {
  const [columns, setColumns] = useState(() => keptColumns(table));
  const choose = (names: string[]) => {
    setColumns(names);
    localStorage.setItem(keptAs(table), JSON.stringify(names));
  };
  const known = columns.filter((name) => table.titles.some((each) => each.name === name));
  return [known, choose] as const;
}

/** Where only rows without an answer are looked at, the reason stands where the answer would. */
export function withReasons(columns: string[]): string[] {
  if (!columns.includes("found")) return columns;
  return columns
    .filter((name) => name !== "problem")
    .map((name) => (name === "found" ? "problem" : name));
}

/** The cells of a row: each column's name and width. What has no answer says why in place of one,
 *  over whatever else is empty beside it. */
export function cellsOf(row: Record<string, string>, shown: readonly string[]) {
  const why = row.problem ? shown.findIndex((name) => ANSWER.includes(name) && !row[name]) : -1;
  const cells: { name: string; wide: number }[] = [];
  shown.forEach((name, place) => {
    const last = cells.at(-1);
    const free = name === "problem" || !row[name];
    if (why >= 0 && place > why && last?.name === "problem" && free) last.wide += widthOf(name);
    else cells.push({ name: place === why ? "problem" : name, wide: widthOf(name) });
  });
  return cells;
}
