import type { ScheduleColumns } from "../../api/types";
import type { Box } from "../../ui/chart";
import { pixelsOf } from "./columns";
import { t } from "../../texts";

export const HEIGHT = 158;
export const TOP = 20;
const OWED_BOTTOM = 96;
const PAID_TOP = 104;
export const PAID_BOTTOM = 148;
export const SIDE = 10;
/** Pixels below which each bar stands for several payments. */
const CLOSE = 3;
const TICK_ROOM = 90;
/** Pixels between two points of the curve that can be told apart. */
const SEEN = 0.5;

export interface Tick {
  x: number;
  label: string;
}

export interface Drawing {
  /** The pixel at which so many periods have passed. */
  x: (period: number) => number;
  y: (amount: number) => number;
  curve: [number, number][];
  /** What is paid, a box for each payment or some of them. */
  principal: Box[];
  interest: Box[];
  /** How many payments a bar stands for. */
  together: number;
  ticks: Tick[];
}

function mean(amounts: readonly number[], first: number, last: number): number {
  let total = 0;
  for (let place = first; place < last; place += 1) total += amounts[place] ?? 0;
  return total / (last - first);
}

function bars(columns: ScheduleColumns, span: number, x: Drawing["x"], advance: boolean) {
  const [payments, principals, interests] = (["payment", "principal", "interest"] as const).map(
    (name) => pixelsOf(columns, name),
  ) as [number[], number[], number[]];
  const most = payments.reduce((one, other) => Math.max(one, other), 1e-9);
  const tall = PAID_BOTTOM - PAID_TOP;
  const count = payments.length;
  const together = Math.max(1, Math.ceil((CLOSE * count) / span));
  const drawn: { principal: Box[]; interest: Box[] } = { principal: [], interest: [] };
  for (let first = 0; first < count; first += together) {
    const last = Math.min(first + together, count);
    const width = Math.max(1, Math.min(16, (span / count) * (last - first) * 0.62));
    const middle = advance ? x(first) + width / 2 : x(last) - width / 2;
    const interest = Math.min(mean(payments, first, last), mean(interests, first, last));
    const x0 = middle - width / 2;
    const tallest = (Math.max(0, mean(principals, first, last)) / most) * tall;
    drawn.principal.push({ x: x0, y: PAID_TOP, width, height: tallest });
    const height = (Math.max(0, interest) / most) * tall;
    drawn.interest.push({ x: x0, y: PAID_TOP + tallest, width, height });
  }
  return { drawn, together };
}

/** Years on the line: of the calendar where there are dates, else of the loan. */
function ticks(
  { number, date }: ScheduleColumns,
  x: Drawing["x"],
  aYear: number,
  noun: string,
  room: number,
) {
  const all: Tick[] = [];
  number.forEach((_, index) => {
    const year = date?.[index]?.slice(0, 4);
    if (year && year !== date?.[index - 1]?.slice(0, 4)) all.push({ x: x(index), label: year });
    else if (!year && index % aYear === 0)
      all.push({
        x: x(index),
        label:
          aYear > 1 || number.length > 1 ? t("year {year}", { year: index / aYear + 1 }) : noun,
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
  columns: ScheduleColumns,
  width: number,
  advance: boolean,
  aYear: number,
  noun: string,
): Drawing {
  const [openings, payments, closings] = (["opening", "payment", "closing"] as const).map((name) =>
    pixelsOf(columns, name),
  ) as [number[], number[], number[]];
  const count = closings.length;
  const span = Math.max(width - 2 * SIDE, 1);
  const x = (period: number) => SIDE + (period / count) * span;
  const lent = openings[0] ?? 0;
  const least = closings.reduce((one, other) => Math.min(one, other), Math.min(0, lent));
  const most = closings.reduce((one, other) => Math.max(one, other), Math.max(lent, 1e-9));
  const y = (amount: number) =>
    OWED_BOTTOM - ((amount - least) / (most - least)) * (OWED_BOTTOM - TOP);
  const curve: [number, number][] = [[x(0), y(lent)]];
  const to = (period: number, amount: number) => {
    const [point, last] = [[x(period), y(amount)] as [number, number], curve[curve.length - 1]];
    const seen = !last || point[0] - last[0] > SEEN || Math.abs(point[1] - last[1]) > SEEN;
    if (seen || period === count) curve.push(point);
  };
  closings.forEach((closing, index) => {
    if (advance) to(index, (openings[index] ?? 0) - (payments[index] ?? 0));
    to(index + 1, closing);
  });
  const { drawn, together } = bars(columns, span, x, advance);
  const room = Math.max(2, Math.floor(width / TICK_ROOM));
  return { x, y, curve, ...drawn, together, ticks: ticks(columns, x, aYear, noun, room) };
}
