import type { ReactNode } from "react";
import type { Statement, VerbWord } from "../../api/types";
import { focusSoon } from "../../hooks/focus";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Choice, OneOf } from "../../ui/choice";
import { Hint } from "../../ui/hint";
import { Deed } from "./clause-deed";
import { Where, WINTER } from "./clause-place";
import { SayClauses } from "./say-clauses";
import { t } from "../../texts";

export type Clause = Statement["clauses"][number];

interface Props {
  statement: Statement;
  figure: (name: string) => ReactNode;
  /** What each clause comes to beside the others, as the server says. */
  notes: readonly (readonly string[])[];
  onChange: (change: Partial<Statement>) => void;
  /** Where the next clause is to stand: the cursor on the line, or nowhere in particular. */
  place: string;
}

const SEASON = "season";

/** A clause one begins with. */
function blank(verb: VerbWord, place: string, isSeason: boolean): Clause {
  // Charges are collected all along, as a rule.
  const isCharge = verb.name === "charge";
  const isStretch = verb.is_stretch || verb.figure === "none" || isCharge;
  return {
    verb: verb.name as Clause["verb"],
    at: isStretch ? "" : place,
    from: isStretch && !isSeason ? place || (isCharge ? "1" : "") : "",
    to: "",
    is_stretch: isStretch,
    months: isSeason ? WINTER : [],
    figure: "",
    in_percent: verb.figure === "either" && !isCharge,
    quoted: "nominal",
    over: "",
    year_days: 365,
    pay: "nothing",
    every: "",
    taken: "from-proceeds",
    then: null,
    of: "balance",
    name: "",
    in_costs: true,
  };
}

/** What departs from the regular run, a line each; any verb can be added. */
export function Clauses({ statement, figure, notes, onChange, place }: Props) {
  const { words } = useDesk();
  const { clauses } = statement;
  const add = (chosen: string) => {
    const isSeason = chosen === SEASON;
    const verb = words.verbs.find((each) =>
      isSeason ? each.figure === "none" : each.name === chosen,
    );
    if (!verb) return;
    const clause = blank(verb, place, isSeason);
    onChange({ clauses: [...clauses, clause] });
    const first = isSeason ? "figure" : clause.is_stretch ? "from" : "at";
    const stands = place || clause.from;
    const field = stands && verb.figure !== "none" ? "figure" : first;
    focusSoon(`[data-figure="clauses.${clauses.length}.${field}"]`);
  };
  const moveUp = (number: number) => {
    const moved = [...clauses];
    moved.splice(number - 1, 0, ...moved.splice(number, 1));
    onChange({ clauses: moved });
  };
  return (
    <>
      {clauses.length > 0 && (
        <ol aria-label={t("Clauses")} className="mt-1">
          {clauses.map((clause, number) => (
            <OneClause
              key={number}
              statement={statement}
              clause={clause}
              number={number}
              figure={figure}
              notes={notes[number] ?? []}
              onChange={(change) =>
                onChange({
                  clauses: clauses.map((each, k) => (k === number ? { ...each, ...change } : each)),
                })
              }
              onUp={() => moveUp(number)}
              onRemove={() => onChange({ clauses: clauses.filter((_, k) => k !== number) })}
            />
          ))}
        </ol>
      )}
      <div className="mt-1.5 flex flex-wrap items-baseline gap-x-2 gap-y-1 text-[0.95rem] text-soft">
        {clauses.length > 0 ? t("and") : t("Except that")}
        <SayClauses
          statement={statement}
          onClauses={(said) => onChange({ clauses: [...clauses, ...said] })}
        />
        {t("or")}
        <Hint of={["clause"]}>
          <Choice
            name={t("Add a clause")}
            value=""
            shown={place ? t("choose one at {place}", { place }) : t("choose a clause")}
            options={[
              ...words.verbs.map(({ name, label }) => ({ value: name, label })),
              ...(statement.start
                ? [{ value: SEASON, label: t("nothing is paid in some months of the year") }]
                : []),
            ]}
            onChoose={add}
          />
        </Hint>
      </div>
    </>
  );
}

export interface OneProps {
  statement: Statement;
  clause: Clause;
  number: number;
  figure: (name: string) => ReactNode;
  onChange: (change: Partial<Clause>) => void;
}

function OneClause({
  notes,
  onUp,
  onRemove,
  ...props
}: OneProps & { notes: readonly string[]; onUp: () => void; onRemove: () => void }) {
  const { words } = useDesk();
  const { statement, clause, number, onChange } = props;
  const verb = words.verbs.find((each) => each.name === clause.verb);
  const mayLevel = verb?.may_level && !["0", "?"].includes(statement.count.trim());
  return (
    <li className="flex items-baseline gap-2 border-b border-rule font-serif text-[1.05rem] leading-[2.1rem]">
      <div className="min-w-0 grow">
        <Where {...props} /> <Deed {...props} />
        {mayLevel && (
          <>
            ,{" "}
            <OneOf
              name={t("Then, clause {number}", { number: number + 1 })}
              value={clause.then ?? ""}
              options={words.choices.then}
              onChoose={(value) => onChange({ then: value || null })}
            />
          </>
        )}
        {notes.map((note) => (
          <p key={note} className="pb-1 font-sans text-[0.9rem] leading-snug text-soft">
            {note}
          </p>
        ))}
      </div>
      <Button
        look="mark"
        aria-label={t("Move clause {number} up", { number: number + 1 })}
        disabled={number === 0}
        onClick={onUp}
      >
        ↑
      </Button>
      <Button
        look="mark"
        aria-label={t("Take off clause {number}", { number: number + 1 })}
        onClick={onRemove}
      >
        ×
      </Button>
    </li>
  );
}
