import type { TableListed } from "../../api/client";

/** What a column of a file can be, in the words of the screen. */
export const FIELDS: Record<string, string> = {
  name: "name of the loan",
  currency: "currency",
  principal: "amount lent",
  percent: "rate",
  quoted: "style of the quote",
  compounding: "compounding",
  count: "number of payments",
  every: "how often it is paid",
  payment: "payment",
  balance: "balance at the end",
  timing: "in arrears or in advance",
  start: "lent on",
  first_payment: "first payment on",
  after: "owed after payment …",
  income: "income that carries the payment",
  share: "share of it that can be carried, %",
};

/** What a result is called at the head of its column. */
export const RESULTS: Record<string, string> = {
  row: "Row",
  unknown: "Asked for",
  found: "Found",
  principal: "Amount lent",
  percent: "Rate, %",
  count: "Payments",
  payment: "Payment",
  balance: "Left at the end",
  periodic: "Per period, %",
  nominal: "Nominal, as paid, %",
  effective: "Effective, %",
  total_paid: "Total paid",
  total_interest: "Total interest",
  final_payment: "Last payment",
  owed: "Owed after",
  us_apr: "US APR, nominal, %",
  eu_aprc: "EU APRC, effective, %",
  gap: "Over at the end",
  fits: "Fits",
  problem: "Why not",
  outlier: "Stands out by",
};

export const UNKNOWNS: Record<string, string> = {
  principal: "amount lent",
  percent: "rate",
  count: "payments",
  payment: "payment",
  balance: "balance",
};

/** The answers to what has to be asked about a table, in words. */
export const ANSWERS: Record<string, string> = {
  "comma-point": "the point: 1,234.50",
  "point-comma": "the comma: 1.234,50",
  plain: "the point, nothing groups: 1234.50",
  part: "6.35 %",
  percent: "as they stand, in percent",
  "part-below-one": "those below 1 are parts: 0.0635 is 6.35 %",
  "day-first": "the day: 3/4 is 3 April",
  "month-first": "the month: 3/4 is 4 March",
  payments: "payments",
  months: "months",
  years: "years",
  "leave-out": "left out, and shown as that",
  solve: "solved as loans all the same",
};

/** How far a table is, in words. */
export function stateWords(table: TableListed): string {
  switch (table.state) {
    case "matching":
      return "its columns are to be confirmed";
    case "waiting":
      return "waits for its turn";
    case "running":
      return `${table.done.toLocaleString("en")} of ${table.rows.toLocaleString("en")} rows done`;
    case "done":
      return table.summary
        ? `${table.summary.solved.toLocaleString("en")} solved` +
            (table.summary.problems ? `, ${table.summary.problems} without an answer` : "") +
            (table.summary.apart ? `, ${table.summary.apart} left out` : "")
        : "done";
    case "cancelled":
      return "cancelled";
    default:
      return table.why || "failed";
  }
}
