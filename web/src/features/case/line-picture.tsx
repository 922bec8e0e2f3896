import type { LeftOver } from "../../api/types";
import { Boxes, Curve, Dot, Label, Level, Picture, pixels } from "../../ui/chart";
import { HEIGHT, PAID_BOTTOM, SIDE, TOP, type Drawing } from "./drawing";

interface Props {
  drawn: Drawing;
  width: number;
  count: number;
  label: string;
  left: LeftOver | null;
  /** What is owed at the end, for the eye. */
  end: number;
  marked: readonly [number, number] | null;
  /** Rows of texts under what is paid: cover and loan to value where each year begins, rates where
   *  they do. */
  below?: readonly Texts[];
  /** Where the cursor stands, and what is owed there. */
  cursor: { x: number; level: number } | null;
}

/** What is owed above, what is paid below. */
export function LinePicture({
  drawn,
  width,
  count,
  label,
  left,
  end,
  marked,
  below = [],
  cursor,
}: Props) {
  const { x, y } = drawn;
  const nothing = y(0);
  const told = below.map((texts) => apart(texts, width)).filter((texts) => texts.length > 0);
  return (
    <Picture label={label} width={width} height={HEIGHT + ROW * told.length}>
      {marked && (
        <rect
          x={x(marked[0] - 1)}
          y={TOP - 6}
          width={Math.max(2, x(marked[1]) - x(marked[0] - 1))}
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
          <Label x={tick.x + 4} y={13} fontSize={12}>
            {tick.label}
          </Label>
        </g>
      ))}
      <polygon
        points={pixels([[x(0), nothing], ...drawn.curve, [x(count), nothing]])}
        fill="var(--owed-fill)"
      />
      <Curve points={drawn.curve} strokeWidth={1.8} />
      <Level y={nothing} from={SIDE} to={width - SIDE} />
      <Boxes boxes={drawn.principal} fill="var(--principal)" />
      <Boxes boxes={drawn.interest} fill="var(--interest)" />
      {told.flatMap((texts, row) =>
        texts.map(({ x: begins, text }) => (
          <Label
            key={`${row} ${begins}`}
            x={begins + 4}
            y={PAID_BOTTOM + ROW * (row + 1)}
            fontSize={12}
          >
            {text}
          </Label>
        )),
      )}
      {left && (
        <g>
          <line
            x1={x(count)}
            x2={x(count)}
            y1={y(end)}
            y2={nothing}
            stroke="var(--owed)"
            strokeWidth={3}
          />
          <Label
            x={x(count) - 8}
            y={clearOf(drawn.curve, x(count) - 8 - 7 * left.short.length, nothing)}
            fontSize={12}
            at="right"
            strong
          >
            {left.short}
          </Label>
        </g>
      )}
      {cursor && (
        <g>
          <line x1={cursor.x} x2={cursor.x} y1={TOP - 4} y2={PAID_BOTTOM} stroke="var(--owed)" />
          <Dot x={cursor.x} y={y(cursor.level)} r={4.5} fill="var(--sheet)" strokeWidth={1.8} />
        </g>
      )}
    </Picture>
  );
}

/** Room for a row of texts under what is paid. */
const ROW = 15;

export type Texts = readonly { x: number; text: string }[];

/** Texts of which none lies on the one before it or beyond the picture. */
function apart(texts: Texts, width: number) {
  let ends = 0;
  return texts.filter(({ x, text }) => {
    const until = x + 4 + 7 * text.length;
    const fits = text !== "" && x >= ends && until <= width;
    if (fits) ends = until + 8;
    return fits;
  });
}

/** Room for the names of the years. */
const YEARS = 30;

/** Where words at the end of the curve, from `begin` on, lie clear of it: above it, else under it. */
function clearOf(curve: readonly (readonly [number, number])[], begin: number, nothing: number) {
  const beside = curve.filter(
    ([at], place) => at >= begin || (curve[place + 1]?.[0] ?? 0) >= begin,
  );
  const heights = beside.map(([, height]) => height);
  const above = Math.min(...heights) - 6;
  return above >= YEARS ? above : Math.min(Math.max(...heights) + 16, nothing - 4);
}
