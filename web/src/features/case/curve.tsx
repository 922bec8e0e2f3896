import { useQuery } from "@tanstack/react-query";
import { ask, client, type RateCurve, type Statement } from "../../api/client";
import { inMarks, rounded } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";

const WIDTH = 560;
const HEIGHT = 170;
const PAD = 26;

/** Only for pixels: effective rates on a scale of their growth. */
function scales({ points }: RateCurve) {
  const growth = (percent: number) => Math.log(1 + percent / 100);
  const xs = points.map((point) => growth(point.effective));
  const [low, high] = [Math.min(...xs), Math.max(...xs)];
  const tall = Math.min(1.2, Math.max(...points.map((point) => Math.abs(point.gap)), 1e-9));
  return {
    x: (percent: number) => PAD + ((growth(percent) - low) / (high - low || 1)) * (WIDTH - 2 * PAD),
    y: (gap: number) =>
      HEIGHT / 2 - (Math.max(-tall, Math.min(tall, gap)) / tall) * (HEIGHT / 2 - PAD),
  };
}

/** What is left at the end against the rate; where the curve crosses, a rate fits. */
export function Curve({ statement }: { statement: Statement }) {
  const { marks } = useDesk();
  const curve = useQuery({
    queryKey: ["curve", statement],
    queryFn: ({ signal }) =>
      ask(client.POST("/api/v1/ask/rate-curve", { body: { statement }, signal })),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
  if (!curve.data) return null;
  const { x, y } = scales(curve.data);
  const path = curve.data.points
    .map((point) => `${x(point.effective).toFixed(1)},${y(point.gap).toFixed(1)}`)
    .join(" ");
  const percent = (value: number) => `${inMarks(rounded(value.toFixed(6), 2), marks)} %`;
  const ends = [curve.data.points[0], curve.data.points.at(-1)];
  return (
    <figure className="mt-3 rounded-lg border border-rule bg-sheet p-2">
      <figcaption className="px-1 text-sm text-soft">
        What is left too much at the end, against the rate (effective a year). Where it crosses the
        line a rate fits{curve.data.fits.length === 0 ? "; it never does" : ""}.
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full text-soft"
        role="img"
        aria-label={
          curve.data.fits.length
            ? `The curve crosses at ${curve.data.fits.map((fit) => percent(fit.effective)).join(" and ")}`
            : "The curve does not cross"
        }
      >
        <line x1={PAD} x2={WIDTH - PAD} y1={y(0)} y2={y(0)} stroke="var(--rule-strong)" />
        <polyline points={path} fill="none" stroke="var(--owed)" strokeWidth={1.8} />
        {curve.data.fits.map((fit, place) => (
          <g key={fit.effective}>
            <circle
              cx={x(fit.effective)}
              cy={y(0)}
              r={5}
              fill="var(--unknown)"
              stroke="var(--owed)"
            />
            <text
              x={x(fit.effective)}
              y={y(0) + (place % 2 ? 20 : -12)}
              fontSize={13}
              fontWeight={600}
              textAnchor="middle"
              fill="var(--ink)"
            >
              {percent(fit.effective)}
            </text>
          </g>
        ))}
        {ends.map(
          (end, place) =>
            end && (
              <text
                key={place}
                x={x(end.effective)}
                y={HEIGHT - 6}
                fontSize={12}
                textAnchor={place ? "end" : "start"}
                fill="currentColor"
              >
                {percent(end.effective)}
              </text>
            ),
        )}
      </svg>
    </figure>
  );
}
