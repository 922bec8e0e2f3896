import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, type Statement } from "../../api/client";
import { day } from "../../ui/moment";
import { inMarks, rounded } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { Sheet } from "../../ui/sheet";

const KINDS = {
  none: "nothing besides",
  percent: "a percent of what is owed",
  months: "months of interest on it",
  amount: "an amount",
} as const;
type Kind = keyof typeof KINDS;

interface Props {
  statement: Statement;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** What it costs to end the loan early, and the yearly cost if it does. */
export function Settled({ statement, open, onOpen }: Props) {
  const { marks } = useDesk();
  const [at, setAt] = useState("12");
  const [kind, setKind] = useState<Kind>("none");
  const [figure, setFigure] = useState("1");
  const body = {
    statement,
    at,
    charge: { kind, figure: kind === "none" ? "0" : figure.trim().replace(",", ".") },
  };
  const found = useQuery({
    queryKey: ["settled", body],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/payoff", { body, signal })),
    enabled: open,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  const money = (text: string) => inMarks(text, marks);
  const percent = (text: string | null) =>
    text === null ? "none fits" : `${inMarks(rounded(text, 4), marks)} %`;
  const field = "rounded border border-rule-strong bg-sheet px-2 py-1";
  const { data } = found;
  return (
    <Sheet
      title="Settled early"
      about="The loan ended right after a payment or on a day, with what is agreed for that."
      open={open}
      onOpen={onOpen}
    >
      <div className="mt-4 flex flex-wrap items-baseline gap-x-3 gap-y-2">
        <label>
          {statement.start ? "After payment, or on a day" : "After payment"}{" "}
          <input
            value={at}
            maxLength={200}
            placeholder={statement.start ? "12 or 15 Mar 2029" : "12"}
            className={`${field} ${statement.start ? "w-36" : "w-20"} text-right`}
            onChange={(event) => setAt(event.target.value)}
          />
        </label>
        <label>
          with{" "}
          <select
            aria-label="What is agreed"
            value={kind}
            className={field}
            onChange={(event) => setKind(event.target.value as Kind)}
          >
            {Object.entries(KINDS).map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        </label>
        {kind !== "none" && (
          <label>
            how much{" "}
            <input
              value={figure}
              className={`${field} w-24 text-right`}
              onChange={(event) => setFigure(event.target.value)}
            />
          </label>
        )}
      </div>
      {found.error ? (
        <p role="alert" className="mt-3 text-wrong">
          {found.error.message}
        </p>
      ) : (
        data && (
          <dl className="mt-4 grid grid-cols-[1fr_auto] gap-y-1">
            {[
              [
                data.on_a_day && data.date
                  ? `Owed on ${day(data.date)}, with interest to the day`
                  : `Owed after payment ${data.number}${data.date ? `, ${day(data.date)}` : ""}`,
                money(data.owed),
              ],
              ["Charge", money(data.charge)],
              ["Payoff", money(data.payoff)],
              ["Total cost of the loan then", money(data.total_cost)],
              ["US actuarial rate a year, nominal", percent(data.yearly_cost.us_apr)],
              ["EU annual percentage rate of charge, effective", percent(data.yearly_cost.eu_aprc)],
            ].map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="text-soft">{name}</dt>
                <dd className="text-right font-semibold">{value}</dd>
              </div>
            ))}
          </dl>
        )
      )}
    </Sheet>
  );
}
