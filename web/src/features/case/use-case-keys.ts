import { useMemo, type Dispatch, type SetStateAction } from "react";
import { focusOn, openList } from "../../hooks/focus";
import { useKeys } from "../../hooks/use-keys";
import type { SheetName } from "./use-sheet";

/** The first figure of the sentence: of a purchase its price. */
export const FIRST_FIGURE = "[data-figure=principal], [data-figure=price]";

/** Where a letter goes on the page of a case. */
const PLACES: Record<string, string> = {
  a: FIRST_FIGURE,
  r: "[data-figure=percent]",
  m: "[data-figure=count]",
  p: "[data-figure=payment]",
  b: "[data-figure=balance]",
  l: "#line-cursor",
  s: "#schedule button",
  o: "#ask-owed",
  x: "#ask-stretch",
  j: "#schedule-jump",
};

/** Which list it opens. */
const LISTS: Record<string, string> = { v: "every", ",": "repaid", u: "rounding" };

/** Which sheet it opens and closes. */
const SHEETS: Record<string, SheetName> = {
  w: "working",
  e: "history",
  y: "moves",
  z: "trail",
  ";": "review",
  "+": "more",
  ".": "settled",
};

/** The single letters that work on the page of a case. */
export function useCaseKeys(setSheet: Dispatch<SetStateAction<SheetName | null>>): void {
  const keys = useMemo(
    () => [
      ...Object.entries(PLACES).map(([key, place]) => ({ key, run: () => focusOn(place) })),
      ...Object.entries(LISTS).map(([key, list]) => ({
        key,
        run: () => openList(`[data-list=${list}] [aria-haspopup]`),
      })),
      ...Object.entries(SHEETS).map(([key, name]) => ({
        key,
        run: () => setSheet((now) => (now === name ? null : name)),
      })),
    ],
    [setSheet],
  );
  useKeys(keys);
}
