import { useEffect, useId, useMemo, useRef, useState, type KeyboardEvent } from "react";
import type { Answer, Statement } from "../api/client";
import { inMarks } from "../ui/numbers";
import { useDesk } from "../ui/settings";
import { paymentPeriod } from "../ui/choices";

const HEIGHT = 188;
const TOP = 20;
const OWED_BOTTOM = 116;
const PAID_TOP = 124;
const PAID_BOTTOM = 180;
const SIDE = 10;

/** The width of an element, kept up to date. */
function useWidth<T extends HTMLElement>() {
  const element = useRef<T>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, []);
  return [element, width] as const;
}

interface Bar {
  x: number;
  width: number;
  principal: number;
  interest: number;
}

/** The picture of the loan: what is owed above, what is paid below, a cursor that tells. */
export function LoanLine({ answer, statement }: { answer: Answer; statement: Statement }) {
  const { marks, words } = useDesk();
  const [box, width] = useWidth<HTMLDivElement>();
  const title = useId();
  const [at, setAt] = useState<number | null>(null);
  const rows = answer.schedule;
  const count = rows.length;
  const advance = statement.timing === "in-advance";
  const { a_year: aYear, noun } = paymentPeriod(statement, words.periods);

  // Only for pixels: every figure that is read comes from the server.
  const drawn = useMemo(() => {
    const span = Math.max(width - 2 * SIDE, 1);
    const x = (period: number) => SIDE + (period / count) * span;
    const owed = rows.map((row) => Number(row.closing));
    const lent = Number(rows[0]?.opening ?? 0);
    const most = Math.max(lent, ...owed, 1e-9);
    const y = (amount: number) => OWED_BOTTOM - (amount / most) * (OWED_BOTTOM - TOP);
    const points: [number, number][] = [[x(0), y(lent)]];
    rows.forEach((row, index) => {
      if (advance) points.push([x(index), y(Number(row.opening) - Number(row.payment))]);
      points.push([x(index + 1), y(owed[index] ?? 0)]);
    });
    const curve = points.map(([px, py]) => `${px.toFixed(1)},${py.toFixed(1)}`).join(" ");
    const paid = Math.max(...rows.map((row) => Number(row.payment)), 1e-9);
    const tall = PAID_BOTTOM - PAID_TOP;
    // Where payments are closer than three pixels, each bar stands for several.
    const together = Math.max(1, Math.ceil((3 * count) / span));
    const bars: Bar[] = [];
    for (let first = 0; first < count; first += together) {
      const some = rows.slice(first, first + together);
      const mean = (pick: (row: (typeof rows)[number]) => number) =>
        some.reduce((sum, row) => sum + pick(row), 0) / some.length;
      const slot = (span / count) * some.length;
      const barWidth = Math.max(1, Math.min(16, slot * 0.62));
      const middle = advance ? x(first) + barWidth / 2 : x(first + some.length) - barWidth / 2;
      bars.push({
        x: middle - barWidth / 2,
        width: barWidth,
        principal:
          (Math.max(
            0,
            mean((row) => Number(row.principal)),
          ) /
            paid) *
          tall,
        interest:
          (Math.max(
            0,
            Math.min(
              mean((row) => Number(row.payment)),
              mean((row) => Number(row.interest)),
            ),
          ) /
            paid) *
          tall,
      });
    }
    return { x, y, curve, bars, together, most };
  }, [rows, width, count, advance]);

  const chosen = at === null ? null : Math.min(at, count);
  const row = chosen ? rows[chosen - 1] : undefined;
  const money = (text: string) => inMarks(text, marks);
  const owes = row ? row.closing : (rows[0]?.opening ?? "0");
  const spoken =
    chosen === null
      ? "no payment chosen"
      : row
        ? `after payment ${row.number}: owes ${money(owes)}`
        : `at the start: owes ${money(owes)}`;

  const move = (event: KeyboardEvent) => {
    const here = chosen ?? 0;
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
    setAt(Math.max(0, Math.min(count, to)));
  };
  const point = (clientX: number) => {
    const left = box.current?.getBoundingClientRect().left ?? 0;
    const part = (clientX - left - SIDE) / Math.max(width - 2 * SIDE, 1);
    setAt(Math.max(0, Math.min(count, Math.round(part * count))));
  };

  const years = Math.ceil(count / aYear);
  const yearStep = Math.max(1, Math.ceil(years / Math.max(2, Math.floor(width / 90))));
  const ticks = Array.from({ length: Math.ceil(years / yearStep) }, (_, k) => k * yearStep);
  const cursorX = chosen === null ? 0 : drawn.x(chosen);
  const flip = cursorX > width - 230;

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
          {row && (
            <>
              payment {row.number}: <b>{money(row.payment)}</b> = principal{" "}
              <b>{money(row.principal)}</b> + interest <b>{money(row.interest)}</b>
            </>
          )}
        </span>
      </div>
      <div
        ref={box}
        id="line-cursor"
        role="slider"
        tabIndex={0}
        aria-label="Cursor on the line"
        aria-valuemin={0}
        aria-valuemax={count}
        aria-valuenow={chosen ?? 0}
        aria-valuetext={spoken}
        className="relative cursor-crosshair touch-pan-y"
        onKeyDown={move}
        onPointerMove={(event) => point(event.clientX)}
        onPointerDown={(event) => point(event.clientX)}
        onPointerLeave={() => setAt(null)}
        onBlur={() => setAt(null)}
      >
        <svg width={width} height={HEIGHT} role="img" className="block text-soft">
          <title>
            {`What is owed, from ${money(rows[0]?.opening ?? "0")} to ${money(rows[count - 1]?.closing ?? "0")} in ${count} payments`}
          </title>
          {ticks.map((year) => (
            <g key={year}>
              <line
                x1={drawn.x(year * aYear)}
                x2={drawn.x(year * aYear)}
                y1={4}
                y2={PAID_BOTTOM}
                stroke="var(--rule)"
                strokeDasharray="2 3"
              />
              <text x={drawn.x(year * aYear) + 4} y={13} fontSize={12} fill="currentColor">
                {aYear > 1 || years > 1 ? `year ${year + 1}` : noun}
              </text>
            </g>
          ))}
          <polygon
            points={`${drawn.x(0)},${OWED_BOTTOM} ${drawn.curve} ${drawn.x(count)},${OWED_BOTTOM}`}
            fill="var(--owed-fill)"
          />
          <polyline points={drawn.curve} fill="none" stroke="var(--owed)" strokeWidth={1.8} />
          <line
            x1={SIDE}
            x2={width - SIDE}
            y1={OWED_BOTTOM}
            y2={OWED_BOTTOM}
            stroke="var(--rule-strong)"
          />
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
          {chosen !== null && (
            <g>
              <line x1={cursorX} x2={cursorX} y1={TOP - 4} y2={PAID_BOTTOM} stroke="var(--owed)" />
              <circle
                cx={cursorX}
                cy={drawn.y(Number(owes))}
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
            {row ? `after payment ${row.number}` : "at the start"}
            <br />
            <b>owes {money(owes)}</b>
          </div>
        )}
      </div>
    </section>
  );
}
