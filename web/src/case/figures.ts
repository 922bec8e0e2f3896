import type { Statement } from "../api/client";

/** The figures of a statement that are typed, by their names in it. */
export const FIGURES = ["principal", "percent", "count", "payment", "balance"] as const;
export type FigureName = (typeof FIGURES)[number];

/** Where each figure stands in the document, as the server names it in errors. */
export const FIELD: Record<FigureName, string> = {
  principal: "principal",
  percent: "rate.percent",
  count: "count",
  payment: "payment",
  balance: "balance",
};

export const TITLE: Record<FigureName, string> = {
  principal: "Amount lent",
  percent: "Rate",
  count: "Number of payments",
  payment: "Payment",
  balance: "Balance at the end",
};

export const HELP: Record<FigureName, string> = {
  principal: "What is lent at the start, before anything is repaid. Such as 48,250 or 48k.",
  percent: "The yearly rate as it is quoted; the words after it say how. Such as 6.35 or 6 3/8.",
  count: "How many payments there are, or the time they take. Such as 60, 5 years or 5y6m.",
  payment: "What is paid each time, principal and interest together. Such as 938.82.",
  balance:
    "What is still owed when the last period is over: 0 where the payments repay it all, more where a balloon is left.",
};

/** The figure marked with the ?, if there is one. */
export function asked(statement: Statement): FigureName | null {
  return FIGURES.find((name) => statement[name].trim() === "?") ?? null;
}
