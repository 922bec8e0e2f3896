import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";

const SHEETS = [
  ...(["working", "history", "share", "review", "against", "settled", "refinanced"] as const),
  ...(["moves", "more", "points", "trail"] as const),
];
export type SheetName = (typeof SHEETS)[number];

/** The sheet that is open; the address names it, so that a link can. */
export function useSheet() {
  const [search] = useSearchParams();
  const asked = SHEETS.find((name) => name === search.get("show")) ?? null;
  const [sheet, setSheet] = useState<SheetName | null>(asked);
  useEffect(() => {
    // The address follows without being gone to: nothing else depends on it.
    const address = sheet ? `?show=${sheet}` : location.pathname;
    history.replaceState(history.state, "", address);
  }, [sheet]);
  return [sheet, setSheet] as const;
}
