import type { Statement } from "../api/client";

/** The figures of a statement that are typed, by their names in it. */
export const FIGURES = ["principal", "percent", "count", "payment", "balance"] as const;
export type FigureName = (typeof FIGURES)[number];

/** All that is typed into the sentence; what is no figure of the loan is never asked for. */
export const ENTRIES = [...FIGURES, "over"] as const;
export type EntryName = (typeof ENTRIES)[number];

export function isFigure(name: EntryName): name is FigureName {
  return FIGURES.some((each) => each === name);
}

/** Where each entry stands in the document, as the server names it in errors. */
export const FIELD: Record<EntryName, string> = {
  principal: "principal",
  percent: "rate.percent",
  count: "count",
  payment: "payment",
  balance: "balance",
  over: "rate.over",
};

export const TITLE: Record<EntryName, string> = {
  principal: "Amount lent",
  percent: "Rate",
  count: "Number of payments",
  payment: "Payment",
  balance: "Balance at the end",
  over: "Charged for",
};

export const HELP: Record<EntryName, string> = {
  principal: "What is lent at the start, before anything is repaid. Such as 48,250 or 48k.",
  percent: "The yearly rate as it is quoted; the words after it say how. Such as 6.35 or 6 3/8.",
  count: "How many payments there are, or the time they take. Such as 60, 5 years or 5y6m.",
  payment: "What is paid each time, principal and interest together. Such as 938.82.",
  balance:
    "What is still owed when the last period is over: 0 where the payments repay it all, more where a balloon is left.",
  over: "The time the quoted interest is charged for at once. Such as 90 days, 6 months or 1 year.",
};

/** The figure marked with the ?, if there is one. */
export function asked(statement: Statement): FigureName | null {
  return FIGURES.find((name) => statement[name].trim() === "?") ?? null;
}
