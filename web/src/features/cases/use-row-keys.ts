import type { KeyboardEvent } from "react";
import type { Picking } from "./use-picked";

const rowAt = (place: number) => document.querySelector<HTMLElement>(`[data-row="${place}"]`);

/** Where a key leads from a row, of so many. */
function led(key: string, place: number, count: number): number | undefined {
  switch (key) {
    case "ArrowDown":
      return Math.min(place + 1, count - 1);
    case "ArrowUp":
      return Math.max(place - 1, 0);
    case "Home":
      return 0;
    case "End":
      return count - 1;
    default:
      return undefined;
  }
}

/** The keys of the list: arrows go from row to row, Space picks one, with Shift a stretch. */
export function useRowKeys(count: number, scrollTo: (line: number) => void, picking: Picking) {
  const go = (place: number) => {
    const row = rowAt(place);
    if (row) {
      row.focus();
      return;
    }
    // A row that was out of sight is drawn first.
    scrollTo(place);
    requestAnimationFrame(() => rowAt(place)?.focus());
  };
  return (event: KeyboardEvent) => {
    if (event.defaultPrevented || event.altKey || event.metaKey) return;
    const row = (event.target as HTMLElement).closest("[role=row]")?.querySelector("[data-row]");
    if (!row) return;
    const place = Number(row.getAttribute("data-row"));
    if (event.key === "a" && event.ctrlKey) picking.pickAll();
    else if (event.key === " " && event.target === row) picking.pick(place, event.shiftKey);
    else {
      const to = event.ctrlKey ? undefined : led(event.key, place, count);
      if (to === undefined) return;
      if (event.shiftKey) picking.pick(to, true);
      go(to);
    }
    event.preventDefault();
  };
}
