import { ask, client, type Content, type Points } from "../../api/client";
import { inMarks, rounded } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { Sheet } from "../../ui/sheet";
import { useWidth } from "../../hooks/use-width";
import { useAsked, useOpenAs } from "./open-as";
import { Outcome, Typed } from "./what-if";

export const NO_POINTS: Points = { percent: "", points: "1", ends: "" };

interface Props {
  content: Content;
  points: Points;
  onPoints: (points: Points) => void;
  open: boolean;
  onOpen: (open: boolean) => void;
}

const HEIGHT = 150;

/** By how much the offer with points is ahead after each payment; only for the eye. */
function Ahead({ ahead, paidOff }: { ahead: string[]; paidOff: number | null }) {
  const [element, measured] = useWidth<HTMLDivElement>();
  const width = measured || 860;
  const values = ahead.map(Number);
  const [low, high] = [Math.min(...values, 0), Math.max(...values, 0)];
  const x = (payment: number) => 8 + (payment / (values.length - 1 || 1)) * (width - 16);
  const y = (amount: number) => HEIGHT - 22 - ((amount - low) / (high - low || 1)) * (HEIGHT - 40);
  return (
    <div ref={element}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        className="mt-3 block w-full text-soft"
        aria-label={
          paidOff === null
            ? "The offer with points never comes ahead"
            : `The offer with points comes ahead after payment ${paidOff}`
        }
      >
        <line x1={8} x2={width - 8} y1={y(0)} y2={y(0)} stroke="var(--rule-strong)" />
        <polyline
          points={values.map((value, payment) => `${x(payment)},${y(value)}`).join(" ")}
          fill="none"
          stroke="var(--owed)"
          strokeWidth={2}
        />
        {paidOff !== null && (
          <>
            <circle cx={x(paidOff)} cy={y(0)} r={5} fill="var(--choice)" stroke="var(--owed)" />
            <text
              x={x(paidOff)}
              y={y(0) + 20}
              fontSize={13}
              fontWeight={600}
              textAnchor="middle"
              fill="var(--ink)"
            >
              payment {paidOff}
            </text>
          </>
        )}
        <text x={8} y={HEIGHT - 4} fontSize={12} fill="currentColor">
          start
        </text>
        <text x={width - 8} y={HEIGHT - 4} fontSize={12} textAnchor="end" fill="currentColor">
          payment {values.length - 1}
        </text>
      </svg>
    </div>
  );
}

/** The loan as it stands against the same at a lower rate with points. */
export function PointsForALowerRate({ content, points, onPoints, open, onOpen }: Props) {
  const { marks } = useDesk();
  const { statement } = content;
  const found = useAsked(
    "points",
    { statement, points },
    open && points.percent.trim() !== "",
    (body, signal) => ask(client.POST("/api/v1/ask/points", { body, signal })),
  );
  const take = useOpenAs(content, "with points");
  const { data } = found;
  const money = (text: string) => inMarks(text, marks);
  const percent = (text: string | null) =>
    text === null ? "none fits" : `${inMarks(rounded(text, 4), marks)} %`;
  return (
    <Sheet
      title="Points for a lower rate"
      about="This loan against the same at another rate, for which points are paid apart at the start. A point is a percent of what is lent."
      open={open}
      onOpen={onOpen}
      wide
    >
      <div className="mt-4 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Typed
          label="The other rate"
          value={points.percent}
          placeholder="5.85"
          after="%, quoted as this one"
          onType={(typed) => onPoints({ ...points, percent: typed })}
        />
        <Typed
          label="for"
          value={points.points}
          after="points"
          onType={(typed) => onPoints({ ...points, points: typed })}
        />
        <Typed
          label="If it ends after payments"
          wide
          value={points.ends}
          placeholder={data?.ends_typed ?? "12; 24; 36; 60"}
          onType={(ends) => onPoints({ ...points, ends })}
        />
      </div>
      {points.percent.trim() === "" ? (
        <p className="mt-4 text-soft">Type the rate of the other offer.</p>
      ) : (
        <Outcome error={found.error} busy={found.isFetching}>
          {data && (
            <>
              <p className="font-serif text-xl font-semibold">{data.says}</p>
              <p className="mt-2">
                Payments of {money(data.payment_with_points)} instead of {money(data.payment)}:{" "}
                {money(data.less_each)} less each. The points cost {money(data.points_cost)}.
              </p>
              <Ahead ahead={data.ahead} paidOff={data.paid_off} />
              <table aria-label="If the loan ends earlier" className="mt-3 w-full">
                <thead>
                  <tr className="border-b border-rule-strong text-sm text-soft">
                    <th scope="col" className="py-1 text-left font-normal">
                      Ended after
                    </th>
                    <th scope="col" className="py-1 pl-4 text-right font-normal">
                      With points, ahead by
                    </th>
                    <th scope="col" className="py-1 pl-4 text-right font-normal">
                      True cost as it stands, effective (EU)
                    </th>
                    <th scope="col" className="py-1 pl-4 text-right font-normal">
                      with points
                    </th>
                    <th scope="col" className="py-1 pl-4 text-right font-normal">
                      As it stands, nominal (US)
                    </th>
                    <th scope="col" className="py-1 pl-4 text-right font-normal">
                      with points
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {data.ends.map((end) => (
                    <tr key={end.number} className="border-b border-rule">
                      <th scope="row" className="py-1 text-left font-normal">
                        payment {end.number}
                      </th>
                      <td className="py-1 pl-4 text-right font-semibold">{money(end.ahead)}</td>
                      <td className="py-1 pl-4 text-right">{percent(end.as_it_stands_eu)}</td>
                      <td className="py-1 pl-4 text-right">{percent(end.with_points_eu)}</td>
                      <td className="py-1 pl-4 text-right">{percent(end.as_it_stands_us)}</td>
                      <td className="py-1 pl-4 text-right">{percent(end.with_points_us)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <button
                className="mt-3 text-choice underline"
                disabled={take.isPending}
                onClick={() => take.mutate(data.statement)}
              >
                Open the offer with points as a case
              </button>
            </>
          )}
          {take.error && (
            <p role="alert" className="mt-2 text-wrong">
              {take.error.message}
            </p>
          )}
        </Outcome>
      )}
    </Sheet>
  );
}
