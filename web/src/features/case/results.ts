import type { Statement } from "../../api/client";

/** The results of a loan that can be aimed at or watched, by their names in the document. */
export const RESULTS: Record<string, string> = {
  payment: "payment",
  total_interest: "total interest",
  total_paid: "total paid",
  final_payment: "last payment",
  count: "number of payments",
  effective: "effective rate a year",
  us_apr: "US actuarial rate a year (12 CFR 1026 App. J)",
  eu_aprc: "EU annual percentage rate of charge",
  end_date: "end date",
};

/** The results that are percentages. */
export const PERCENTS: readonly string[] = ["effective", "us_apr", "eu_aprc"];

/** The results a loan has: without dates it has no end date. */
export function resultsOf(statement: Statement): string[] {
  return Object.keys(RESULTS).filter((name) => name !== "end_date" || statement.start.trim());
}

/** What a result is called. */
export function resultName(figure: string): string {
  const after = /^balance@(\d+)$/.exec(figure);
  if (after) return `balance after payment ${after[1]}`;
  const stretch = /^interest@(\d+)-(\d+)$/.exec(figure);
  if (stretch) return `interest of payments ${stretch[1]} to ${stretch[2]}`;
  return RESULTS[figure] ?? figure;
}
