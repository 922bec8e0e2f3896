import { useState } from "react";

const KEPT = "zephyrant-years";

/** The month in which the years of a schedule start, as chosen last; null: years of the loan. */
export function useYears() {
  const [starts, setStarts] = useState<number | null>(() => {
    const kept = Number(localStorage.getItem(KEPT));
    return kept >= 1 && kept <= 12 ? kept : null;
  });
  const choose = (month: number | null) => {
    localStorage.setItem(KEPT, String(month ?? ""));
    setStarts(month);
  };
  return [starts, choose] as const;
}

export type Years = ReturnType<typeof useYears>;
