import type { Answer } from "../../api/types";

export const HEIGHT = 196;
export const TOP = 20;
const OWED_BOTTOM = 116;
export const PAID_TOP = 124;
export const PAID_BOTTOM = 180;
export const SIDE = 10;

export interface Bar {
  x: number;
  width: number;
  principal: number;
  interest: number;
}

export interface Tick {
  x: number;
  label: string;
}

export interface Drawing {
  /** The pixel at which so many periods have passed. */
  x: (period: number) => number;
  y: (amount: number) => number;
  curve: [number, number][];
  bars: Bar[];
  /** How many payments a bar stands for. */
  together: number;
  ticks: Tick[];
}

type Row = Answer["schedule"][number];

const sum = (rows: readonly Row[], pick: (row: Row) => number) =>
  rows.reduce((total, row) => total + pick(row), 0);

function bars(rows: readonly Row[], span: number, x: Drawing["x"], advance: boolean) {
  const paid = Math.max(...rows.map((row) => Number(row.payment)), 1e-9);
  const tall = PAID_BOTTOM - PAID_TOP;
  const count = rows.length;
  // Where payments are closer than three pixels, each bar stands for several.
  const together = Math.max(1, Math.ceil((3 * count) / span));
  const drawn: Bar[] = [];
  for (let first = 0; first < count; first += together) {
    const some = rows.slice(first, first + together);
    const mean = (pick: (row: Row) => number) => sum(some, pick) / some.length;
    const slot = (span / count) * some.length;
    const width = Math.max(1, Math.min(16, slot * 0.62));
    const middle = advance ? x(first) + width / 2 : x(first + some.length) - width / 2;
    const interest = Math.min(
      mean((row) => Number(row.payment)),
      mean((row) => Number(row.interest)),
    );
    drawn.push({
      x: middle - width / 2,
      width,
      principal:
        (Math.max(
          0,
          mean((row) => Number(row.principal)),
        ) /
          paid) *
        tall,
      interest: (Math.max(0, interest) / paid) * tall,
    });
  }
  return { drawn, together };
}

/** Years on the line: of the calendar where there are dates, else of the loan. */
function ticks(rows: readonly Row[], x: Drawing["x"], aYear: number, noun: string, room: number) {
  const all: Tick[] = [];
  rows.forEach((row, index) => {
    const year = row.date?.slice(0, 4);
    const before = rows[index - 1]?.date?.slice(0, 4);
    if (year && year !== before) all.push({ x: x(index), label: year });
    else if (!year && index % aYear === 0)
      all.push({
        x: x(index),
        label: aYear > 1 || rows.length > 1 ? `year ${index / aYear + 1}` : noun,
      });
  });
  const step = Math.max(1, Math.ceil(all.length / room));
  return all.filter((tick, place) => {
    const next = all[place + 1];
    const crowded = place === 0 && next !== undefined && next.x - tick.x < 44;
    return place % step === 0 && !crowded;
  });
}

/** What the line shows, in pixels only: every figure that is read comes from the server. */
export function draw(
  rows: readonly Row[],
  width: number,
  advance: boolean,
  aYear: number,
  noun: string,
): Drawing {
  const count = rows.length;
  const span = Math.max(width - 2 * SIDE, 1);
  const x = (period: number) => SIDE + (period / count) * span;
  const lent = Number(rows[0]?.opening ?? 0);
  const owed = rows.map((row) => Number(row.closing));
  const [least, most] = [Math.min(0, lent, ...owed), Math.max(lent, ...owed, 1e-9)];
  const y = (amount: number) =>
    OWED_BOTTOM - ((amount - least) / (most - least)) * (OWED_BOTTOM - TOP);
  const points: [number, number][] = [[x(0), y(lent)]];
  rows.forEach((row, index) => {
    if (advance) points.push([x(index), y(Number(row.opening) - Number(row.payment))]);
    points.push([x(index + 1), y(Number(row.closing))]);
  });
  const { drawn, together } = bars(rows, span, x, advance);
  return {
    x,
    y,
    curve: points,
    bars: drawn,
    together,
    ticks: ticks(rows, x, aYear, noun, Math.max(2, Math.floor(width / 90))),
  };
}
