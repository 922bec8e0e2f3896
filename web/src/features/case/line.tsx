import { useId, useMemo, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Answer, Statement } from "../../api/client";
import { paymentPeriod } from "../../ui/choices";
import { day } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { useWidth } from "../../hooks/use-width";
import { draw, HEIGHT, PAID_BOTTOM, PAID_TOP, SIDE, TOP } from "./drawing";
import { useOwed } from "./use-asked";

interface Props {
  answer: Answer;
  statement: Statement;
  /** Whether the answer is that of the statement. */
  ready: boolean;
  /** The first day of the loan, where it has dates. */
  start: string | null;
  /** The payments whose sum is asked for. */
  marked: readonly [number, number] | null;
  onStretch: (typed: string) => void;
  /** The cursor was put somewhere on purpose: a clause can be added there. */
  onPlace: (payment: number) => void;
  /** A clause was moved along the line. */
  onMove: (clause: number, payment: number) => void;
}

const DAY = 86_400_000;

/** The day that lies at a point between two others, for pointing at it only. */
function between(begins: string, ends: string, part: number): string {
  const [from, to] = [Date.parse(begins), Date.parse(ends)];
  const days = Math.round(((to - from) / DAY) * part);
  return new Date(from + days * DAY).toISOString().slice(0, 10);
}

/** The picture of the loan: what is owed above, what is paid below, a cursor that tells. */
export function LoanLine({
  answer,
  statement,
  ready,
  start,
  marked,
  onStretch,
  onPlace,
  onMove,
}: Props) {
  const { marks, words } = useDesk();
  const [box, width] = useWidth<HTMLDivElement>();
  const title = useId();
  const [at, setAt] = useState<number | null>(null);
  const [from, setFrom] = useState<number | null>(null);
  const rows = answer.schedule;
  const count = rows.length;
  const advance = statement.timing === "in-advance";
  const { a_year: aYear, noun } = paymentPeriod(statement, words.periods);
  const drawn = useMemo(
    () => draw(rows, width, advance, aYear, noun),
    [rows, width, advance, aYear, noun],
  );

  const chosen = at === null ? null : Math.min(at, count);
  const whole = chosen === null ? null : Math.round(chosen);
  const near = whole !== null && chosen !== null && Math.abs(chosen - whole) < 0.08;
  const row = whole ? rows[whole - 1] : undefined;
  const money = (text: string) => inMarks(text, marks);

  // Between two payments of a loan with dates the cursor stands on a day, which the server tells.
  const dateOf = (payment: number) =>
    payment === 0 && !advance ? start : (rows[advance ? payment : payment - 1]?.date ?? null);
  const low = chosen === null ? 0 : Math.floor(chosen);
  const [begins, ends] = [dateOf(low), dateOf(low + 1)];
  const onDay =
    chosen !== null && !near && begins && ends ? between(begins, ends, chosen - low) : "";
  const owed = useOwed(statement, onDay, ready);
  const told = onDay ? owed.data?.[0] : undefined;

  const owes = row ? row.closing : (rows[0]?.opening ?? "0");
  const spoken =
    chosen === null
      ? "no payment chosen"
      : row
        ? `after payment ${row.number}: owes ${money(owes)}`
        : `at the start: owes ${money(owes)}`;

  const stretchOf = (one: number, other: number) => {
    const [first, last] = [Math.min(one, other) + 1, Math.max(one, other)];
    if (last >= first) onStretch(first === last ? String(first) : `${first}-${last}`);
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
  const place = (clientX: number) => {
    const left = box.current?.getBoundingClientRect().left ?? 0;
    const part = (clientX - left - SIDE) / Math.max(width - 2 * SIDE, 1);
    return Math.max(0, Math.min(count, part * count));
  };
  const point = (event: PointerEvent) => {
    const here = place(event.clientX);
    setAt(start && count * 6 < width ? here : Math.round(here));
    if (event.buttons === 1 && from !== null && Math.round(here) !== from)
      stretchOf(from, Math.round(here));
  };

  const cursorX = chosen === null ? 0 : drawn.x(chosen);
  const flip = cursorX > width - 260;
  const left = rows[count - 1]?.closing ?? "0";
  const balloon = /[1-9]/.test(left);
  const nothing = drawn.y(0);
  const level = told ? Number(told.owed) : Number(owes);

  return (
    <section aria-labelledby={title} className="mt-5 rounded-lg border border-rule bg-sheet">
      <div className="flex flex-wrap items-center gap-x-5 px-4 pt-2 text-sm text-soft">
        <h2 id={title} className="font-semibold text-ink">
          The line
        </h2>
        <span className="flex items-center gap-1.5">
          <span aria-hidden className="h-0.5 w-3 bg-owed" /> owed
        </span>
        <span className="flex items-center gap-1.5">
          <span aria-hidden className="size-2.5 rounded-sm bg-principal" /> principal paid
        </span>
        <span className="flex items-center gap-1.5">
          <span aria-hidden className="size-2.5 rounded-sm bg-interest" /> interest paid
        </span>
        {drawn.together > 1 && <span>each bar the mean of {drawn.together} payments</span>}
        <span className="ml-auto min-h-5 text-ink" aria-hidden>
          {row && !told ? (
            <>
              payment {row.number}
              {row.date && `, ${day(row.date)}`}: <b>{money(row.payment)}</b> = principal{" "}
              <b>{money(row.principal)}</b> + interest <b>{money(row.interest)}</b>
            </>
          ) : (
            <span className="text-soft">drag, or Shift and the arrows, for a stretch</span>
          )}
        </span>
      </div>
      <Pins
        statement={statement}
        rows={rows}
        count={count}
        advance={advance}
        x={drawn.x}
        onMove={onMove}
        placeAt={place}
      />
      <div
        ref={box}
        id="line-cursor"
        role="slider"
        tabIndex={0}
        aria-label="Cursor on the line"
        aria-valuemin={0}
        aria-valuemax={count}
        aria-valuenow={whole ?? 0}
        aria-valuetext={spoken}
        className="relative cursor-crosshair touch-pan-y select-none"
        onKeyDown={move}
        onPointerMove={point}
        onPointerDown={(event) => {
          setFrom(Math.round(place(event.clientX)));
          onPlace(Math.round(place(event.clientX)));
          point(event);
        }}
        onPointerUp={() => setFrom(null)}
        onPointerLeave={() => setAt(null)}
        onBlur={() => setAt(null)}
      >
        <svg width={width} height={HEIGHT} role="img" className="block text-soft">
          <title>
            {`What is owed, from ${money(rows[0]?.opening ?? "0")} to ${money(left)} in ${count} payments`}
          </title>
          {marked && (
            <rect
              x={drawn.x(marked[0] - 1)}
              y={TOP - 6}
              width={Math.max(2, drawn.x(marked[1]) - drawn.x(marked[0] - 1))}
              height={PAID_BOTTOM - TOP + 8}
              fill="var(--choice)"
              fillOpacity={0.12}
              stroke="var(--choice)"
              strokeOpacity={0.5}
            />
          )}
          {drawn.ticks.map((tick) => (
            <g key={tick.x}>
              <line
                x1={tick.x}
                x2={tick.x}
                y1={4}
                y2={PAID_BOTTOM}
                stroke="var(--rule)"
                strokeDasharray="2 3"
              />
              <text x={tick.x + 4} y={13} fontSize={12} fill="currentColor">
                {tick.label}
              </text>
            </g>
          ))}
          <polygon
            points={`${drawn.x(0)},${nothing} ${drawn.curve} ${drawn.x(count)},${nothing}`}
            fill="var(--owed-fill)"
          />
          <polyline points={drawn.curve} fill="none" stroke="var(--owed)" strokeWidth={1.8} />
          <line x1={SIDE} x2={width - SIDE} y1={nothing} y2={nothing} stroke="var(--rule-strong)" />
          {drawn.bars.map((bar) => (
            <g key={bar.x}>
              <rect
                x={bar.x}
                y={PAID_TOP}
                width={bar.width}
                height={bar.principal}
                fill="var(--principal)"
              />
              <rect
                x={bar.x}
                y={PAID_TOP + bar.principal}
                width={bar.width}
                height={bar.interest}
                fill="var(--interest)"
              />
            </g>
          ))}
          {balloon && (
            <g>
              <line
                x1={drawn.x(count)}
                x2={drawn.x(count)}
                y1={drawn.y(Number(left))}
                y2={nothing}
                stroke="var(--owed)"
                strokeWidth={3}
              />
              <text
                x={drawn.x(count) - 8}
                y={Math.max(TOP + 10, drawn.y(Number(left)) - 6)}
                fontSize={12}
                fontWeight={600}
                textAnchor="end"
                fill="var(--ink)"
              >
                {Number(left) < 0
                  ? `${money(left.replace("-", ""))} overpaid`
                  : `${money(left)} left`}
              </text>
            </g>
          )}
          {chosen !== null && (
            <g>
              <line x1={cursorX} x2={cursorX} y1={TOP - 4} y2={PAID_BOTTOM} stroke="var(--owed)" />
              <circle
                cx={cursorX}
                cy={drawn.y(level)}
                r={4.5}
                fill="var(--sheet)"
                stroke="var(--owed)"
                strokeWidth={1.8}
              />
            </g>
          )}
        </svg>
        {chosen !== null && (
          <div
            aria-hidden
            className="pointer-events-none absolute top-8 rounded bg-ink px-2.5 py-1 text-sm text-paper"
            style={flip ? { right: width - cursorX + 8 } : { left: cursorX + 8 }}
          >
            {told ? (
              <>
                on {day(told.date ?? onDay)}
                <br />
                <b>owes {money(told.owed)}</b>
                <br />
                {money(told.accrued)} of it accrued
                {told.per_day && `, ${money(told.per_day)} a day`}
              </>
            ) : (
              <>
                {row
                  ? `after payment ${row.number}${row.date ? ` · ${day(row.date)}` : ""}`
                  : "at the start"}
                <br />
                <b>owes {money(owes)}</b>
              </>
            )}
          </div>
        )}
      </div>
    </section>
  );
}

interface PinsProps {
  statement: Statement;
  rows: Answer["schedule"];
  count: number;
  advance: boolean;
  x: (period: number) => number;
  placeAt: (clientX: number) => number;
  onMove: (clause: number, payment: number) => void;
}

const SHORT: Record<string, string> = {
  repay: "repaid",
  advance: "lent",
  rate: "rate",
  payment: "payment",
  step: "grows",
  fee: "fee",
};

const PAUSE = { nothing: "nothing paid", interest: "interest only" } as const;

/** Clauses as pins and ribbons above the line; those at one payment can be moved along it. */
function Pins({ statement, rows, count, advance, x, placeAt, onMove }: PinsProps) {
  const shift = advance ? 1 : 0;
  const numberOf = (typed: string) => {
    if (/^\d+$/.test(typed.trim())) return Number(typed);
    const found = rows.findIndex((row) => row.date !== null && day(row.date) === typed.trim());
    return found < 0 ? null : found + 1;
  };
  const pins = statement.clauses.map((clause, place) => {
    const first = numberOf(clause.is_stretch ? clause.begin || "1" : clause.at);
    const last = clause.is_stretch ? (numberOf(clause.to) ?? count) : first;
    return { clause, place, first, last };
  });
  if (pins.length === 0) return null;
  return (
    <div className="relative mt-1" style={{ height: 20 * Math.min(4, pins.length) + 4 }}>
      {pins.map(({ clause, place, first, last }) => {
        if (first === null || last === null || first > count) return null;
        const told =
          clause.verb === "pay" ? PAUSE[clause.pay] : `${SHORT[clause.verb]} ${clause.figure}`;
        const text = clause.months.length > 0 ? `${told}, some months` : told;
        const top = 20 * (place % 4) + 2;
        if (clause.is_stretch)
          return (
            <span
              key={place}
              className="absolute overflow-hidden rounded-sm bg-choice/15 px-1.5 text-xs leading-[18px] whitespace-nowrap text-choice"
              style={{
                top,
                left: x(Math.max(0, first - 1)),
                width: Math.max(10, x(Math.min(last, count)) - x(Math.max(0, first - 1))),
              }}
            >
              {text}
            </span>
          );
        const here = x(Math.max(0, first - shift));
        // Near the end of the line the words stand before the pin.
        const side =
          here > 0.8 * x(count)
            ? "flex-row-reverse translate-x-[calc(5px-100%)]"
            : "-translate-x-[5px]";
        return (
          <button
            key={place}
            aria-label={`Clause ${place + 1}, ${text}, at payment ${first}: move with the arrow keys`}
            className={`absolute flex touch-none items-center gap-1 text-xs leading-[18px] whitespace-nowrap text-choice ${side}`}
            style={{ top, left: here }}
            onKeyDown={(event) => {
              const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
              if (!step) return;
              event.preventDefault();
              onMove(place, Math.max(0, Math.min(count, first + step)));
            }}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={(event) => {
              if (event.buttons !== 1) return;
              const to = Math.round(placeAt(event.clientX)) + shift;
              if (to !== first) onMove(place, Math.max(0, Math.min(count, to)));
            }}
          >
            <span aria-hidden className="size-2.5 rotate-45 bg-choice" />
            {text}
          </button>
        );
      })}
    </div>
  );
}
