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
};

/** The results that are percentages. */
export const PERCENTS: readonly string[] = ["effective", "us_apr", "eu_aprc"];

/** What a result is called. */
export function resultName(figure: string): string {
  const after = /^balance@(\d+)$/.exec(figure);
  return after ? `balance after payment ${after[1]}` : (RESULTS[figure] ?? figure);
}
