import type { SideBySide } from "../../api/client";
import { inMarks } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { useWidth } from "../../hooks/use-width";

const HEIGHT = 240;
const LEFT = 8;
const BOTTOM = 26;

/** Each line is told by its stroke and its number, not by colour alone. */
const STROKES = [
  { colour: "var(--owed)", dash: undefined, width: 2.6 },
  { colour: "var(--principal)", dash: "9 5", width: 2.4 },
  { colour: "var(--interest)", dash: "2.5 4", width: 2.8 },
  { colour: "var(--choice)", dash: "14 4 3 4", width: 2.2 },
  { colour: "var(--wrong)", dash: "6 3", width: 2 },
  { colour: "var(--ink-soft)", dash: "1.5 3", width: 2.2 },
] as const;

const strokeOf = (place: number) => STROKES[place % STROKES.length] ?? STROKES[0];

/** The number and the stroke of a line. */
export function Swatch({ place }: { place: number }) {
  const stroke = strokeOf(place);
  return (
    <svg viewBox="0 0 60 14" className="inline-block h-3.5 w-15" aria-hidden>
      <text x={0} y={12} fontSize={13} fontWeight={600} fill="var(--ink)">
        {place + 1}
      </text>
      <line
        x1={14}
        x2={60}
        y1={7}
        y2={7}
        stroke={stroke.colour}
        strokeWidth={stroke.width}
        strokeDasharray={stroke.dash}
      />
    </svg>
  );
}

/** What is owed in each loan, over each other on one scale of years and money. */
export function Overlay({ beside }: { beside: SideBySide }) {
  const { marks } = useDesk();
  const [element, measured] = useWidth<HTMLElement>();
  const width = measured || 1200;
  const currency = beside.currencies[beside.base];
  const lines = beside.lines.map((line, place) =>
    line && beside.currencies[place] === currency ? { ...line, place } : null,
  );
  const drawn = lines.filter((line) => line !== null);
  const left = drawn.length < beside.lines.filter(Boolean).length;
  const years = Math.max(...drawn.map((line) => line.years.at(-1) ?? 0), 0);
  const most = Math.max(...drawn.flatMap((line) => line.owed), 0);
  if (drawn.length === 0 || years <= 0 || most <= 0) return null;
  const x = (year: number) => LEFT + (year / years) * (width - 2 * LEFT);
  const y = (owed: number) => HEIGHT - BOTTOM - (owed / most) * (HEIGHT - BOTTOM - 14);
  const step = Math.max(1, Math.ceil((years * 90) / width));
  const ticks = Array.from({ length: Math.floor(years / step) + 1 }, (_, tick) => tick * step);
  const shown = (amount: number) => inMarks(amount.toFixed(0), marks);
  return (
    <figure ref={element} className="mt-4">
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        className="block w-full text-soft"
        aria-label={drawn
          .map(
            (line) =>
              `${beside.names[line.place]}: ${shown(line.owed[0] ?? 0)} owed at the start, ${shown(line.owed.at(-1) ?? 0)} after ${(line.years.at(-1) ?? 0).toFixed(1)} years`,
          )
          .join("; ")}
      >
        <line x1={LEFT} x2={width - LEFT} y1={y(0)} y2={y(0)} stroke="var(--rule-strong)" />
        {ticks.map((tick) => (
          <text
            key={tick}
            x={x(tick)}
            y={HEIGHT - 6}
            fontSize={13}
            fill="currentColor"
            textAnchor={tick === 0 ? "start" : "middle"}
          >
            {tick === 0
              ? "start"
              : tick === step
                ? `${tick} ${tick === 1 ? "year" : "years"}`
                : tick}
          </text>
        ))}
        {drawn.map((line) => {
          const stroke = strokeOf(line.place);
          const at = Math.floor(line.years.length * (0.25 + 0.09 * line.place));
          return (
            <g key={line.place}>
              <polyline
                points={line.years
                  .map(
                    (year, point) => `${x(year).toFixed(1)},${y(line.owed[point] ?? 0).toFixed(1)}`,
                  )
                  .join(" ")}
                fill="none"
                stroke={stroke.colour}
                strokeWidth={stroke.width}
                strokeDasharray={stroke.dash}
              />
              <text
                x={x(line.years[at] ?? 0)}
                y={y(line.owed[at] ?? 0) - 7}
                fontSize={14}
                fontWeight={700}
                fill="var(--ink)"
                stroke="var(--paper)"
                strokeWidth={4}
                paintOrder="stroke"
              >
                {line.place + 1}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="text-sm text-soft">
        Owed, {currency}, by years since the start; {shown(most)} at the top.
        {left && " Loans in other currencies are not drawn."}
      </figcaption>
    </figure>
  );
}
