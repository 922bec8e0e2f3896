import { useState } from "react";
import type { CaseOpened, Content, Statement } from "../../api/client";
import { contentOf } from "./content";

type Side = "mine" | "theirs";

const NAMES: Record<string, string> = {
  name: "Name",
  currency: "Currency",
  principal: "Amount lent",
  percent: "Rate",
  quoted: "Quoted",
  compounding: "Compounded",
  over: "Charged for",
  year_days: "Meant for days",
  count: "Number of payments",
  every: "Paid",
  payment: "Payment",
  balance: "Balance at the end",
  timing: "Paid at",
  rounding: "Rounding",
  start: "Lent on",
  first_payment: "First payment",
  day_count: "Days counted",
  odd_days: "Odd days bear",
  clauses: "Clauses",
  note: "Note",
  tags: "Tags",
};

function parts(content: Content): Record<string, unknown> {
  return { ...content.statement, note: content.note, tags: content.tags };
}

function same(one: unknown, other: unknown): boolean {
  return JSON.stringify(one ?? null) === JSON.stringify(other ?? null);
}

function told(value: unknown): string {
  if (value === null || value === undefined || value === "") return "nothing";
  if (Array.isArray(value)) return value.join(", ") || "nothing";
  if (typeof value === "object")
    return Object.values(value).filter(Boolean).join(", ") || "as usual";
  return typeof value === "string" ? value.replace(/-/g, " ") : JSON.stringify(value);
}

interface Props {
  mine: Content;
  kept: CaseOpened;
  base: Content;
  onResolve: (content: Content) => void;
  onMineAsNew: () => void;
}

/** What stands here and what someone saved meanwhile, side by side; the analyst chooses. */
export function Conflict({ mine, kept, base, onResolve, onMineAsNew }: Props) {
  const theirs = contentOf(kept);
  const [ours, others, before] = [parts(mine), parts(theirs), parts(base)];
  const different = Object.keys(NAMES).filter((name) => !same(ours[name], others[name]));
  // What only they changed is theirs, what was changed here is mine, until chosen otherwise.
  const [chosen, setChosen] = useState<Record<string, Side>>({});
  const side = (name: string): Side =>
    chosen[name] ?? (same(ours[name], before[name]) ? "theirs" : "mine");
  const merged = (): Content => {
    const picked = Object.fromEntries(
      Object.keys({ ...ours, ...others }).map((name) => [
        name,
        different.includes(name) && side(name) === "mine" ? ours[name] : others[name],
      ]),
    );
    const { note, tags, ...statement } = picked;
    return {
      statement: { ...statement, marks: mine.statement.marks } as Statement,
      note: note as string,
      tags: tags as string[],
    };
  };
  const button = "rounded border border-rule-strong px-3 py-1";
  return (
    <section
      role="alert"
      aria-label="Two versions of this case"
      className="mt-3 rounded-lg border border-wrong bg-sheet p-4"
    >
      <h2 className="font-semibold text-wrong">
        This case was changed elsewhere while you worked on it. Nothing is lost; choose what counts.
      </h2>
      <table className="mt-2">
        <thead>
          <tr className="text-left text-sm text-soft">
            <th className="pr-6 font-normal">Differs</th>
            <th className="pr-6 font-normal">Here</th>
            <th className="font-normal">Saved elsewhere</th>
          </tr>
        </thead>
        <tbody>
          {different.map((name) => (
            <tr key={name}>
              <th className="pr-6 text-left font-semibold">{NAMES[name]}</th>
              {(["mine", "theirs"] as const).map((which) => (
                <td key={which} className="pr-6">
                  <label className="flex items-center gap-2">
                    <input
                      type="radio"
                      name={`side-${name}`}
                      checked={side(name) === which}
                      onChange={() => setChosen((now) => ({ ...now, [name]: which }))}
                    />
                    {told(which === "mine" ? ours[name] : others[name])}
                  </label>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-3 flex flex-wrap gap-2">
        <button
          className="rounded bg-ink px-3 py-1 font-semibold text-paper"
          onClick={() => onResolve(merged())}
        >
          Go on with what is chosen
        </button>
        <button className={button} onClick={() => onResolve(mine)}>
          All from here
        </button>
        <button className={button} onClick={() => onResolve(theirs)}>
          All from elsewhere
        </button>
        <button className={button} onClick={onMineAsNew}>
          Keep mine as a new case
        </button>
      </div>
    </section>
  );
}
