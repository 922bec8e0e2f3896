import { useState, type KeyboardEvent, type PointerEvent, type RefObject } from "react";
import { SIDE } from "./drawing";

const DAY = 86_400_000;

/** The day that lies at a point between two others, for pointing at it only. */
export function between(begins: string, ends: string, part: number): string {
  const [from, to] = [Date.parse(begins), Date.parse(ends)];
  const days = Math.round(((to - from) / DAY) * part);
  return new Date(from + days * DAY).toISOString().slice(0, 10);
}

interface Props {
  box: RefObject<HTMLDivElement | null>;
  width: number;
  count: number;
  aYear: number;
  /** Whether a place between two payments can be pointed at. */
  isDated: boolean;
  onStretch: (typed: string) => void;
  onPlace: (payment: number) => void;
}

/** A cursor on the line: moved by the pointer or by keys, with Shift or dragged over a stretch. */
export function useCursor({ box, width, count, aYear, isDated, onStretch, onPlace }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const [from, setFrom] = useState<number | null>(null);
  const chosen = at === null ? null : Math.min(at, count);
  const whole = chosen === null ? null : Math.round(chosen);

  const stretchOf = (one: number, other: number) => {
    const [first, last] = [Math.min(one, other) + 1, Math.max(one, other)];
    if (last >= first) onStretch(first === last ? String(first) : `${first}-${last}`);
  };
  const placeAt = (clientX: number) => {
    const left = box.current?.getBoundingClientRect().left ?? 0;
    const part = (clientX - left - SIDE) / Math.max(width - 2 * SIDE, 1);
    return Math.max(0, Math.min(count, part * count));
  };
  const point = (event: PointerEvent) => {
    const here = placeAt(event.clientX);
    setAt(isDated && count * 6 < width ? here : Math.round(here));
    if (event.buttons === 1 && from !== null && Math.round(here) !== from)
      stretchOf(from, Math.round(here));
  };
  const move = (event: KeyboardEvent) => {
    if (event.key === "Escape") {
      onStretch("");
      setFrom(null);
      return;
    }
    const here = whole ?? 0;
    const to = {
      ArrowLeft: here - 1,
      ArrowDown: here - 1,
      ArrowRight: here + 1,
      ArrowUp: here + 1,
      PageDown: here - aYear,
      PageUp: here + aYear,
      Home: 0,
      End: count,
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    const inside = Math.max(0, Math.min(count, to));
    if (event.shiftKey) {
      const anchor = from ?? here;
      setFrom(anchor);
      stretchOf(anchor, inside);
    } else setFrom(null);
    setAt(inside);
    onPlace(inside);
  };
  const handlers = {
    onKeyDown: move,
    onPointerMove: point,
    onPointerDown: (event: PointerEvent) => {
      const here = Math.round(placeAt(event.clientX));
      setFrom(here);
      onPlace(here);
      point(event);
    },
    onPointerUp: () => setFrom(null),
    onPointerLeave: () => setAt(null),
    onBlur: () => setAt(null),
  };
  return { chosen, whole, placeAt, handlers };
}
