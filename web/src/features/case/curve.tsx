import { useRateCurve } from "../../api/asking";
import type { Statement } from "../../api/types";
import { Chart, Curve, Dot, Label, Level, scale } from "../../ui/chart";
import { t } from "../../texts";

const HEIGHT = 170;
const PAD = 26;

/** Only for pixels: effective rates on a scale of their growth. */
const growth = (percent: number) => Math.log(1 + percent / 100);

/** What is left at the end against the rate; where the curve crosses, a rate fits. */
export function RateCurve({ statement }: { statement: Statement }) {
  const { data } = useRateCurve(statement);
  if (!data) return null;
  const { points, fits, told, ends } = data;
  const rates = points.map((point) => growth(point.effective));
  // What lies far beyond is cut: it is the crossings that are looked at.
  const tall = Math.min(1.2, Math.max(...points.map((point) => Math.abs(point.gap)), 1e-9));
  const label = told.length
    ? t("The curve crosses at {rates}", { rates: told.join(` ${t("and")} `) })
    : t("The curve does not cross");
  return (
    <figure className="mt-3 rounded-lg border border-rule bg-sheet p-2">
      <figcaption className="px-1 text-sm text-soft">
        {told.length > 0
          ? t(
              "What is left too much at the end, against the rate (effective a year). Where it crosses the line a rate fits.",
            )
          : t(
              "What is left too much at the end, against the rate (effective a year). Where it crosses the line a rate fits; it never does.",
            )}
      </figcaption>
      <Chart label={label} height={HEIGHT} first={560}>
        {(width) => {
          const across = scale(Math.min(...rates), Math.max(...rates), PAD, width - PAD);
          const x = (percent: number) => across(growth(percent));
          const up = scale(-tall, tall, HEIGHT - PAD, PAD);
          const y = (gap: number) => up(Math.max(-tall, Math.min(tall, gap)));
          return (
            <>
              <Level y={y(0)} from={PAD} to={width - PAD} />
              <Curve points={points.map(({ effective, gap }) => [x(effective), y(gap)] as const)} />
              {fits.map((fit, place) => (
                <g key={fit.effective}>
                  <Dot x={x(fit.effective)} y={y(0)} fill="var(--unknown)" />
                  <Label x={x(fit.effective)} y={y(0) + (place % 2 ? 20 : -12)} at="middle" strong>
                    {told[place]}
                  </Label>
                </g>
              ))}
              <Label x={PAD} y={HEIGHT - 6}>
                {ends[0]}
              </Label>
              <Label x={width - PAD} y={HEIGHT - 6} at="right">
                {ends[1]}
              </Label>
            </>
          );
        }}
      </Chart>
    </figure>
  );
}
