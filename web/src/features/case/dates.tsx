import type { Statement } from "../../api/client";
import { Choice } from "../../ui/choice";

interface Props {
  statement: Statement;
  /** Whether days are stated, or about to be. */
  dated: boolean;
  onChange: (change: Partial<Statement>) => void;
  onUndated: () => void;
}

const DAY_COUNTS = {
  equal: "every period alike",
  "30/360": "30/360",
  "30E/360": "30E/360",
  "actual/365": "actual/365",
  "actual/360": "actual/360",
  "actual/actual": "actual/actual",
} as const;

function firstOfNextMonth(): string {
  const now = new Date();
  const first = new Date(now.getFullYear(), now.getMonth() + 1, 1);
  return `${first.getFullYear()}-${String(first.getMonth() + 1).padStart(2, "0")}-01`;
}

/** Whether a loan is on the calendar, and how its days are counted. */
export function DatesLine({ statement, dated, onChange, onUndated }: Props) {
  if (!dated)
    return (
      <p className="mt-1 text-[0.95rem] text-soft">
        Without dates.{" "}
        <button
          className="text-choice underline decoration-dotted underline-offset-[0.3em]"
          onClick={() => {
            onChange({ start: firstOfNextMonth() });
            setTimeout(() => document.querySelector<HTMLElement>("[data-figure=start]")?.focus());
          }}
        >
          Give it dates
        </button>
      </p>
    );
  return (
    <p className="mt-1 text-[0.95rem] text-soft">
      {!statement.start && "Until the day it is lent on is stated, it is worked without dates. "}
      Days are counted{" "}
      <Choice
        name="Days are counted"
        value={statement.day_count}
        shown={DAY_COUNTS[statement.day_count]}
        options={Object.entries(DAY_COUNTS).map(([value, label]) => ({ value, label }))}
        onChoose={(value) => onChange({ day_count: value as Statement["day_count"] })}
      />
      {statement.day_count === "equal" && (
        <>
          , an odd first time bears{" "}
          <Choice
            name="Odd days bear"
            value={statement.odd_days}
            shown={`${statement.odd_days} interest`}
            options={[
              { value: "simple", label: "simple interest" },
              { value: "compound", label: "compound interest" },
            ]}
            onChoose={(value) => onChange({ odd_days: value as Statement["odd_days"] })}
          />
        </>
      )}
      .{" "}
      <button
        className="text-choice underline decoration-dotted underline-offset-[0.3em]"
        onClick={() => {
          onChange({ start: "", first_payment: "", day_count: "equal", odd_days: "simple" });
          onUndated();
        }}
      >
        Take the dates off
      </button>
    </p>
  );
}
