import type { FlowsDrawn } from "../../api/types";
import { Boxes, Chart, Curve, Key, Label, Level, pixels, scale, type Box } from "../../ui/chart";
import { t } from "../../texts";

const OWED = 130;
const PAID = 90;
const GAP = 10;
const SIDE = 10;
const TOP = 18;
const HEIGHT = TOP + OWED + GAP + PAID + 18;

/** What is owed after each period above, what is paid in it below; only for the eye. */
export function FlowsPicture({ drawn, label }: { drawn: FlowsDrawn; label: string }) {
  const { periods, balance } = drawn;
  const repaysEarly = drawn.early.some(Boolean);
  return (
    <figure className="mt-3 rounded-lg border border-rule bg-sheet p-3">
      <figcaption className="flex flex-wrap gap-x-5 text-sm text-soft">
        <Key look="h-0.5 w-3 bg-owed">{t("owed at the end of each period")}</Key>
        <Key look="size-2.5 rounded-sm bg-principal">{t("principal paid")}</Key>
        {repaysEarly && <Key look="size-2.5 rounded-sm bg-rule-strong">{t("repaid early")}</Key>}
        <Key look="size-2.5 rounded-sm bg-interest">{t("interest paid")}</Key>
      </figcaption>
      <Chart label={label} height={HEIGHT} first={1180}>
        {(width) => {
          const x = scale(0, Math.max(periods.length, 1), SIDE, width - SIDE);
          // What is owed before anything is paid.
          const begins = (balance[0] ?? 0) + (drawn.principal[0] ?? 0) + (drawn.early[0] ?? 0);
          const y = scale(0, Math.max(begins, ...balance, 1), TOP + OWED, TOP);
          const points = [begins, ...balance].map((owed, place) => [x(place), y(owed)] as const);
          const last = x(periods.length);
          return (
            <>
              <polygon
                points={pixels([[SIDE, y(0)], ...points, [last, y(0)]])}
                fill="var(--owed-fill)"
              />
              <Curve points={points} strokeWidth={1.8} />
              <Level y={y(0)} from={SIDE} to={width - SIDE} />
              <Paid drawn={drawn} x={x} />
              {[...new Set([0, periods.length - 1])].map((place) => (
                <Label
                  key={place}
                  x={place ? width - SIDE : SIDE}
                  y={HEIGHT - 3}
                  at={place ? "right" : "left"}
                >
                  {periods[place]}
                </Label>
              ))}
            </>
          );
        }}
      </Chart>
    </figure>
  );
}

/** What is paid in each period: principal, what is repaid early, interest, one on the other. */
function Paid({ drawn, x }: { drawn: FlowsDrawn; x: (place: number) => number }) {
  const parts = [drawn.principal, drawn.early, drawn.interest];
  const sums = drawn.periods.map((_, place) =>
    parts.reduce((sum, part) => sum + Math.max(part[place] ?? 0, 0), 0),
  );
  const tall = scale(0, Math.max(...sums, 1), 0, PAID);
  const bottom = TOP + OWED + GAP + PAID;
  const stacked = drawn.periods.map(() => bottom);
  const fills = ["var(--principal)", "var(--rule-strong)", "var(--interest)"];
  return parts.map((part, kind) => {
    const boxes: Box[] = part.map((amount, place) => {
      const height = tall(Math.max(amount, 0));
      const y = (stacked[place] ?? bottom) - height;
      stacked[place] = y;
      const width = Math.max(x(place + 1) - x(place) - 1, 0.6);
      return { x: x(place), y, width, height };
    });
    return <Boxes key={fills[kind]} boxes={boxes} fill={fills[kind] ?? ""} />;
  });
}
