import { useState } from "react";
import type { Statement } from "../../api/client";
import { FIELD } from "./what-if";

const PERIODS = ["month", "year", "quarter", "week"] as const;

interface Capacity {
  share: string;
  income: string;
  outgoings: string;
  per: string;
}

const NOTHING: Capacity = { share: "", income: "", outgoings: "", per: "month" };

/** As the payment takes it: "35 % of 5,400 - 640 a month". */
function said({ share, income, outgoings, per }: Capacity): string {
  const part = share.trim() && `${share.trim()} % of `;
  const less = outgoings.trim() && ` - ${outgoings.trim()}`;
  return `${part}${income.trim()}${less} a ${per}`;
}

interface Props {
  statement: Statement;
  /** How the payment was understood. */
  note: string | null | undefined;
  onType: (name: string, text: string) => void;
}

/** The payment from an income: what of it can be carried. */
export function CapacityLine({ statement, note, onType }: Props) {
  const [capacity, setCapacity] = useState<Capacity | null>(null);
  if (!capacity)
    return (
      <button
        className="text-choice underline decoration-dotted underline-offset-[0.3em]"
        onClick={() => {
          setCapacity(NOTHING);
          setTimeout(() => document.querySelector<HTMLElement>("#capacity-income")?.focus());
        }}
      >
        Payment from an income
      </button>
    );
  const change = (changed: Partial<Capacity>) => {
    const next = { ...capacity, ...changed };
    setCapacity(next);
    if (!next.income.trim()) return;
    // Where the payment was asked for, the amount lent is now what can be found.
    if (statement.payment.trim() === "?")
      onType(statement.is_purchase ? "price" : "principal", "?");
    onType("payment", said(next));
  };
  return (
    <span className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1 rounded border border-rule bg-sheet px-3 py-2">
      <label>
        Income{" "}
        <input
          id="capacity-income"
          value={capacity.income}
          placeholder="5,400"
          maxLength={40}
          className={`${FIELD} mx-1 w-28 text-right text-ink`}
          onChange={(event) => change({ income: event.target.value })}
        />
      </label>
      <select
        aria-label="Income each"
        value={capacity.per}
        className={FIELD}
        onChange={(event) => change({ per: event.target.value })}
      >
        {PERIODS.map((per) => (
          <option key={per} value={per}>
            a {per}
          </option>
        ))}
      </select>
      <label>
        of which{" "}
        <input
          value={capacity.share}
          placeholder="all"
          maxLength={20}
          className={`${FIELD} mx-1 w-16 text-right text-ink`}
          onChange={(event) => change({ share: event.target.value })}
        />{" "}
        %
      </label>
      <label>
        less outgoings{" "}
        <input
          value={capacity.outgoings}
          placeholder="0"
          maxLength={40}
          className={`${FIELD} mx-1 w-24 text-right text-ink`}
          onChange={(event) => change({ outgoings: event.target.value })}
        />
      </label>
      <button className="text-choice underline" onClick={() => setCapacity(null)}>
        Done
      </button>
      {capacity.income.trim() && note && (
        <span role="status" className="w-full text-ink">
          {note}
        </span>
      )}
    </span>
  );
}
