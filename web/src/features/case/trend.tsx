import type { Variations } from "../../api/types";
import { Chart, Curve, Dot, Label, Level, scale } from "../../ui/chart";
import { t } from "../../texts";

const HEIGHT = 190;
const PAD = 14;
const A_DAY = /^\d{4}-\d\d-\d\d$/;

/** Only for pixels. */
const numberOf = (text: string) =>
  A_DAY.test(text) ? new Date(text).getTime() / 86_400_000 : Number(text);

interface Props {
  data: Variations;
  /** What the result is to be, drawn across. */
  aim?: { value: string; told: string };
}

/** The first result against the figure, only for the eye. */
export function Trend({ data, aim }: Props) {
  const { swept, told } = data;
  const [first = ""] = Object.keys(swept.results);
  const points = (swept.values[0] ?? []).flatMap((value, row) => {
    const text = swept.results[first]?.[row]?.[0];
    if (!text) return [];
    const at = told.values[0]?.[row] ?? "";
    const result = told.results[first]?.[row]?.[0] ?? "";
    return [{ x: Number(value), y: numberOf(text), at, result, stands: told.stands[0] === row }];
  });
  const [left, right] = [points[0], points.at(-1)];
  if (!left || !right || points.length < 2) return null;
  const target = aim && numberOf(aim.value);
  const heights = [...points.map((point) => point.y), ...(target === undefined ? [] : [target])];
  const stands = points.find((point) => point.stands);
  const said = t("From {at} to {at2} the result goes from {result} to {result2}", {
    at: left.at,
    at2: right.at,
    result: left.result,
    result2: right.result,
  });
  return (
    <Chart
      label={aim ? t("{said}; the aim is {aim}", { said, aim: aim.told }) : said}
      height={HEIGHT}
    >
      {(width) => {
        const x = scale(left.x, right.x, PAD, width - PAD);
        const y = scale(Math.min(...heights), Math.max(...heights), HEIGHT - 30, 26);
        return (
          <>
            {aim && target !== undefined && (
              <>
                <Level
                  y={y(target)}
                  from={PAD}
                  to={width - PAD}
                  stroke="var(--choice)"
                  strokeWidth={1.5}
                  strokeDasharray="6 4"
                />
                <Label x={PAD} y={y(target) - 5} strong>
                  {t("aim {aim}", { aim: aim.told })}
                </Label>
              </>
            )}
            <Curve points={points.map((point) => [x(point.x), y(point.y)] as const)} />
            {points.map((point) => (
              <Dot key={point.x} x={x(point.x)} y={y(point.y)} r={3} fill="var(--owed)" />
            ))}
            {stands && (
              <>
                <Dot x={x(stands.x)} y={y(stands.y)} r={6} />
                <Label x={x(stands.x)} y={y(stands.y) - 12} at="middle" strong>
                  {stands.result}
                </Label>
              </>
            )}
            <Label x={PAD} y={HEIGHT - 6}>
              {`${left.at}: ${left.result}`}
            </Label>
            <Label x={width - PAD} y={HEIGHT - 6} at="right">
              {`${right.at}: ${right.result}`}
            </Label>
            <Label x={width / 2} y={HEIGHT - 6} at="middle">
              {told.titles[0]}
            </Label>
          </>
        );
      }}
    </Chart>
  );
}
