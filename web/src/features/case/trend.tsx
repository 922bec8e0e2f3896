import type { Variations } from "../../api/client";
import { day } from "../../ui/moment";
import { inMarks, rounded, trimmed } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { useWidth } from "../../hooks/use-width";
import { PERCENTS } from "./results";

const HEIGHT = 190;
const PAD = 14;
const MANY_DIGITS = /\.\d{7,}$/;
const A_DAY = /^\d{4}-\d\d-\d\d$/;

/** A result in the reader's marks; a rate to six decimals, an end date as a day. */
export function useResult() {
  const { marks } = useDesk();
  return (name: string, value: string | null | undefined) => {
    if (value === null || value === undefined) return "–";
    if (A_DAY.test(value)) return day(value);
    const text = MANY_DIGITS.test(value) ? trimmed(rounded(value, 6)) : value;
    return `${inMarks(text, marks)}${PERCENTS.includes(name) ? " %" : ""}`;
  };
}

/** Only for pixels. */
const numberOf = (text: string) =>
  A_DAY.test(text) ? new Date(text).getTime() / 86_400_000 : Number(text);

interface Props {
  data: Variations;
  name: (path: string) => string;
  shown: (path: string, value: string) => string;
  /** What the result is to be, drawn across. */
  aim?: string;
}

/** The first result against the figure, only for the eye. */
export function Trend({ data, name, shown, aim }: Props) {
  const result = useResult();
  const [element, measured] = useWidth<HTMLDivElement>();
  const width = measured || 800;
  const [axis] = data.varied;
  const [first] = Object.keys(data.swept.results);
  const points = (data.swept.values[0] ?? []).flatMap((value, row) => {
    const text = first && data.swept.results[first]?.[row]?.[0];
    return text ? [{ at: Number(value), to: numberOf(text), text }] : [];
  });
  const [left, right] = [points[0], points.at(-1)];
  if (!axis || !first || !left || !right || points.length < 2) return <div ref={element} />;
  const target = aim === undefined ? undefined : numberOf(aim);
  const heights = [...points.map((point) => point.to), ...(target === undefined ? [] : [target])];
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const x = (at: number) => PAD + ((at - left.at) / (right.at - left.at || 1)) * (width - 2 * PAD);
  const y = (to: number) => HEIGHT - 30 - ((to - low) / (high - low || 1)) * (HEIGHT - 56);
  const stands = points.find((point) => point.at === Number(data.standing[0] ?? NaN));
  const said = `From ${shown(axis.path, String(left.at))} to ${shown(axis.path, String(right.at))} the result goes from ${result(first, left.text)} to ${result(first, right.text)}`;
  return (
    <div ref={element}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        className="block w-full text-soft"
        aria-label={aim === undefined ? said : `${said}; the aim is ${result(first, aim)}`}
      >
        {target !== undefined && aim !== undefined && (
          <>
            <line
              x1={PAD}
              x2={width - PAD}
              y1={y(target)}
              y2={y(target)}
              stroke="var(--choice)"
              strokeWidth={1.5}
              strokeDasharray="6 4"
            />
            <text x={PAD} y={y(target) - 5} fontSize={13} fill="var(--ink)">
              aim {result(first, aim)}
            </text>
          </>
        )}
        <polyline
          points={points.map((point) => `${x(point.at)},${y(point.to)}`).join(" ")}
          fill="none"
          stroke="var(--owed)"
          strokeWidth={2}
        />
        {points.map((point) => (
          <circle key={point.at} cx={x(point.at)} cy={y(point.to)} r={3} fill="var(--owed)" />
        ))}
        {stands && (
          <>
            <circle
              cx={x(stands.at)}
              cy={y(stands.to)}
              r={6}
              fill="var(--choice)"
              stroke="var(--owed)"
            />
            <text
              x={x(stands.at)}
              y={y(stands.to) - 12}
              fontSize={14}
              fontWeight={600}
              textAnchor="middle"
              fill="var(--ink)"
            >
              {result(first, stands.text)}
            </text>
          </>
        )}
        {[left, right].map((end, place) => (
          <text
            key={place}
            x={x(end.at)}
            y={HEIGHT - 6}
            fontSize={13}
            textAnchor={place ? "end" : "start"}
            fill="currentColor"
          >
            {`${shown(axis.path, String(end.at))}: ${result(first, end.text)}`}
          </text>
        ))}
        <text x={width / 2} y={HEIGHT - 6} fontSize={13} textAnchor="middle" fill="currentColor">
          {name(axis.path)}
        </text>
      </svg>
    </div>
  );
}
