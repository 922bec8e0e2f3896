import type { ScheduleColumns } from "../../api/types";

/** Whether days stand in a column. */
export const isOfDays = (name: string) => name === "date" || name === "scheduled";

/** So many units as a plain decimal: 93882 of two decimals is "938.82". */
function plain(units: number, decimals: number): string {
  const digits = String(Math.abs(units)).padStart(decimals + 1, "0");
  const text = decimals ? `${digits.slice(0, -decimals)}.${digits.slice(-decimals)}` : digits;
  return units < 0 ? `-${text}` : text;
}

/** What stands in a column at a place from 0, as a plain decimal or a day; nothing where the
 *  schedule has no such column. */
export function textAt(columns: ScheduleColumns, name: string, place: number): string {
  if (name === "date") return columns.date?.[place] ?? "";
  if (name === "scheduled") return columns.scheduled?.[place] ?? "";
  if (name === "number") return String(columns.number[place] ?? "");
  const amount = columns.money[name]?.[place];
  return typeof amount === "number" ? plain(amount, columns.decimals) : (amount ?? "");
}

/** The amounts of a column, only for pixels. */
export function pixelsOf(columns: ScheduleColumns, name: string): number[] {
  const each = 10 ** columns.decimals;
  return (columns.money[name] ?? []).map((amount) =>
    typeof amount === "number" ? amount / each : Number(amount),
  );
}
