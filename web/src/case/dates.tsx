import type { ReactNode } from "react";
import type { Statement } from "../api/client";
import { Choice } from "../ui/choice";

interface Props {
  statement: Statement;
  figure: (name: string) => ReactNode;
  onChange: (change: Partial<Statement>) => void;
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
export function DatesLine({ statement, onChange }: Omit<Props, "figure">) {
  if (!statement.start)
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
        onClick={() =>
          onChange({ start: "", first_payment: "", day_count: "equal", odd_days: "simple" })
        }
      >
        Take the dates off
      </button>
    </p>
  );
}

/** What departs from the regular run, a line each. */
export function Clauses({ statement, figure, onChange }: Props) {
  const { clauses } = statement;
  const add = () => {
    onChange({ clauses: [...clauses, { at: "", payment: "" }] });
    setTimeout(() =>
      document.querySelector<HTMLElement>(`[data-figure="clauses.${clauses.length}.at"]`)?.focus(),
    );
  };
  return (
    <>
      {clauses.length > 0 && (
        <ul aria-label="Clauses" className="mt-1">
          {clauses.map((_, place) => (
            <li
              key={place}
              className="border-b border-rule font-serif text-[1.1rem] leading-[2.2rem]"
            >
              payment {figure(`clauses.${place}.at`)} is {figure(`clauses.${place}.payment`)}
              <button
                aria-label={`Take off clause ${place + 1}`}
                className="float-right rounded px-1.5 font-sans text-soft hover:text-ink"
                onClick={() => onChange({ clauses: clauses.filter((__, k) => k !== place) })}
              >
                ×
              </button>
            </li>
          ))}
        </ul>
      )}
      <button className="mt-1 text-[0.95rem] text-choice underline" onClick={add}>
        Add a payment of its own
      </button>
    </>
  );
}
