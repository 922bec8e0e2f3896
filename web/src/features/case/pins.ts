/** Loans that can be pinned beside a case. */
export const MOST_PINS = 5;
