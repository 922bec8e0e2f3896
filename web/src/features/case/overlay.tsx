import type { SideBySide } from "../../api/types";
import { Chart, Curve, Label, Level, Picture, scale } from "../../ui/chart";
import { t, tn } from "../../texts";

const HEIGHT = 240;
const PAD = 8;
const BOTTOM = 26;

/** Each line is told by its stroke and its number, not by colour alone. */
const STROKES = [
  { stroke: "var(--owed)", strokeWidth: 2.6, strokeDasharray: "none" },
  { stroke: "var(--principal)", strokeWidth: 2.4, strokeDasharray: "9 5" },
  { stroke: "var(--interest)", strokeWidth: 2.8, strokeDasharray: "2.5 4" },
  { stroke: "var(--choice)", strokeWidth: 2.2, strokeDasharray: "14 4 3 4" },
  { stroke: "var(--wrong)", strokeWidth: 2, strokeDasharray: "6 3" },
  { stroke: "var(--ink-soft)", strokeWidth: 2.2, strokeDasharray: "1.5 3" },
] as const;

const strokeOf = (place: number) => STROKES[place % STROKES.length] ?? STROKES[0];

/** The number and the stroke of a line. */
export function Swatch({ place }: { place: number }) {
  return (
    <Picture
      label={t("line {number}", { number: place + 1 })}
      width={60}
      height={14}
      className="inline-block h-3.5 w-15"
    >
      <Label x={0} y={12} strong>
        {place + 1}
      </Label>
      <Level y={7} from={14} to={60} {...strokeOf(place)} />
    </Picture>
  );
}

/** What is owed in each loan, over each other on one scale of years and money. */
export function Overlay({ beside }: { beside: SideBySide }) {
  const drawn = beside.lines.flatMap((line, place) => (line ? [{ ...line, place }] : []));
  const years = Math.max(...drawn.map((line) => line.years.at(-1) ?? 0), 0);
  const most = Math.max(...drawn.flatMap((line) => line.owed), 0);
  if (drawn.length === 0 || years <= 0 || most <= 0) return null;
  const label = drawn.map((line) => `${beside.names[line.place]}: ${line.says}`).join("; ");
  return (
    <figure className="mt-4">
      <Chart label={label} height={HEIGHT} first={1200}>
        {(width) => {
          const x = scale(0, years, PAD, width - PAD);
          const y = scale(0, most, HEIGHT - BOTTOM, 14);
          return (
            <>
              <Level y={y(0)} from={PAD} to={width - PAD} />
              <Years years={years} width={width} x={x} />
              {drawn.map((line) => (
                <Curve
                  key={line.place}
                  points={line.years.map(
                    (year, point) => [x(year), y(line.owed[point] ?? 0)] as const,
                  )}
                  {...strokeOf(line.place)}
                />
              ))}
              {/* The numbers stand over every line: none is struck through by another's. */}
              {drawn.map((line) => {
                const at = Math.floor(line.years.length * (0.25 + 0.09 * line.place));
                return (
                  <Label
                    key={line.place}
                    x={x(line.years[at] ?? 0)}
                    y={y(line.owed[at] ?? 0) + 5}
                    at="middle"
                    fontSize={14}
                    strong
                    stroke="var(--paper)"
                    strokeWidth={6}
                    paintOrder="stroke"
                  >
                    {line.place + 1}
                  </Label>
                );
              })}
            </>
          );
        }}
      </Chart>
      <figcaption className="text-sm text-soft">
        {t("Owed, {currency}, by years since the start; {top} at the top.", {
          currency: beside.currencies[beside.base] ?? "",
          top: beside.top ?? "",
        })}
        {beside.left_out && ` ${t("Loans in other currencies are not drawn.")}`}
      </figcaption>
    </figure>
  );
}

/** Years since the start, as many as there is room for. */
function Years({ years, width, x }: { years: number; width: number; x: (year: number) => number }) {
  const step = Math.max(1, Math.ceil((years * 90) / width));
  const ticks = Array.from({ length: Math.floor(years / step) + 1 }, (_, tick) => tick * step);
  return ticks.map((tick) => (
    <Label key={tick} x={x(tick)} y={HEIGHT - 6} at={tick === 0 ? "left" : "middle"}>
      {tick === 0
        ? t("start")
        : tick === step
          ? tn("{tick} year", "{tick} years", tick, { tick })
          : tick}
    </Label>
  ));
}
