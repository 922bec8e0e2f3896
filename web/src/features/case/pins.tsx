import type { ClausePlaced, Statement } from "../../api/types";
import { Button } from "../../ui/button";
import { t } from "../../texts";

const HIGH = 20;
/** About how wide a letter is, and what stands before the words. */
const LETTER = 6.6;
const BEFORE = 18;

interface Props {
  statement: Statement;
  placed: readonly ClausePlaced[];
  count: number;
  advance: boolean;
  x: (period: number) => number;
  placeAt: (clientX: number) => number;
  onMove: (clause: number, payment: number) => void;
}

/** In which line above the picture each clause stands: none lies over another. */
function lanesOf(placed: readonly ClausePlaced[], x: Props["x"], end: number): number[] {
  const ends: [number, number][][] = [];
  return placed.map(({ text, first, last }) => {
    if (first === null || last === null) return 0;
    const wide = text.length * LETTER + BEFORE;
    const begin = Math.min(x(Math.max(0, first - 1)), end - wide);
    const span: [number, number] = [begin, Math.max(x(last), begin + wide)];
    const free = ends.findIndex((lane) =>
      lane.every(([from, to]) => span[1] < from || span[0] > to),
    );
    const lane = free < 0 ? ends.length : free;
    ends[lane] = [...(ends[lane] ?? []), span];
    return lane;
  });
}

/** Clauses as pins and ribbons above the line; those at one payment can be moved along it. */
export function Pins({ statement, placed, count, advance, x, placeAt, onMove }: Props) {
  if (placed.length === 0) return null;
  const shift = advance ? 1 : 0;
  const lanes = lanesOf(placed, x, x(count));
  return (
    <div className="relative mt-1" style={{ height: HIGH * (Math.max(...lanes) + 1) + 4 }}>
      {placed.map(({ text, first, last }, place) => {
        if (first === null || last === null) return null;
        const top = HIGH * (lanes[place] ?? 0) + 2;
        if (statement.clauses[place]?.is_stretch)
          return (
            <span
              key={place}
              className="absolute overflow-hidden rounded-sm bg-choice/15 px-1.5 text-xs leading-[18px] whitespace-nowrap text-choice"
              style={{
                top,
                left: x(Math.max(0, first - 1)),
                width: Math.max(10, x(last) - x(Math.max(0, first - 1))),
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
        const move = (to: number) => onMove(place, Math.max(0, Math.min(count, to)));
        return (
          <Button
            key={place}
            look="bare"
            aria-label={t("Clause {place}, {says}, at payment {first}: move with the arrow keys", {
              place: place + 1,
              says: text,
              first,
            })}
            className={`absolute flex touch-none items-center gap-1 text-xs leading-[18px] whitespace-nowrap text-choice ${side}`}
            style={{ top, left: here }}
            onKeyDown={(event) => {
              const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
              if (!step) return;
              event.preventDefault();
              move(first + step);
            }}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={(event) => {
              if (event.buttons !== 1) return;
              const to = Math.round(placeAt(event.clientX)) + shift;
              if (to !== first) move(to);
            }}
          >
            <span aria-hidden className="size-2.5 rotate-45 bg-choice" />
            {text}
          </Button>
        );
      })}
    </div>
  );
}
