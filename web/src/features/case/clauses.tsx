import type { ReactNode } from "react";
import type { Statement } from "../../api/client";
import { Choice } from "../../ui/choice";
import { isTimed, paymentPeriod } from "../../ui/choices";
import { QuoteChoice } from "../../ui/presets";
import { useDesk } from "../../hooks/use-desk";

type Clause = Statement["clauses"][number];

interface Props {
  statement: Statement;
  figure: (name: string) => ReactNode;
  /** What each clause comes to beside the others, as the server says. */
  notes: readonly (readonly string[])[];
  onChange: (change: Partial<Statement>) => void;
  /** Where the next clause is to stand: the cursor on the line, or nowhere in particular. */
  place?: string;
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const WINTER = [12, 1, 2];

const VERBS: Record<Clause["verb"], string> = {
  repay: "more is repaid",
  advance: "more is lent",
  rate: "another rate holds",
  payment: "another payment is made",
  pay: "nothing or interest only is paid",
  step: "the payment grows",
  fee: "a fee is taken",
};

/** A clause one begins with. */
function blank(verb: Clause["verb"], place: string, seasonal = false): Clause {
  const stretch = verb === "rate" || verb === "step" || verb === "pay";
  return {
    verb,
    at: stretch ? "" : place,
    begin: stretch && !seasonal ? place : "",
    to: "",
    is_stretch: stretch,
    months: seasonal ? WINTER : [],
    figure: "",
    in_percent: verb === "step" || verb === "fee",
    quoted: "nominal",
    over: "",
    year_days: 365,
    pay: "nothing",
    every: "",
    taken: "from-proceeds",
    levels: false,
  };
}

const TAKEN = {
  "from-proceeds": "kept back from the proceeds",
  added: "added to what is owed",
  apart: "paid apart",
} as const;

function Months({ clause, of, onChange }: { clause: Clause; of: string; onChange: Change }) {
  const chosen = clause.months;
  return (
    <span className="whitespace-nowrap">
      in{" "}
      <span role="group" aria-label={`Months${of}`} className="font-sans text-[0.8rem]">
        {MONTHS.map((name, place) => {
          const month = place + 1;
          const on = chosen.includes(month);
          return (
            <button
              key={name}
              aria-pressed={on}
              className={`border border-rule px-1 first:rounded-l last:rounded-r ${on ? "bg-ink text-paper" : "text-soft"}`}
              onClick={() =>
                onChange({
                  months: on ? chosen.filter((each) => each !== month) : [...chosen, month],
                })
              }
            >
              {name}
            </button>
          );
        })}
      </span>
    </span>
  );
}

type Change = (change: Partial<Clause>) => void;

interface OneProps {
  statement: Statement;
  clause: Clause;
  number: number;
  figure: (name: string) => ReactNode;
  onChange: Change;
}

/** Where a clause stands, as words and figures of the sentence. */
function Where({ statement, clause, number, figure, onChange }: OneProps) {
  const of = `, clause ${number + 1}`;
  const name = (part: string) => `clauses.${number}.${part}`;
  const movable = clause.verb !== "rate" && clause.verb !== "step";
  const kind = clause.months.length > 0 ? "months" : clause.is_stretch ? "stretch" : "once";
  const options = [
    ...(movable ? [{ value: "once", label: "at one payment" }] : []),
    { value: "stretch", label: "from one payment on" },
    ...(movable && statement.start
      ? [{ value: "months", label: "in some months of the year" }]
      : []),
  ];
  const choose = (value: string) =>
    onChange(
      value === "once"
        ? { is_stretch: false, months: [], at: clause.at || clause.begin }
        : {
            is_stretch: true,
            begin: value === "months" ? "" : clause.begin || clause.at,
            months: value === "months" ? WINTER : [],
          },
    );
  const words = { once: "at payment", stretch: "from payment", months: "every year" }[kind];
  return (
    <>
      {options.length > 1 ? (
        <Choice
          name={`Where${of}`}
          value={kind}
          shown={words}
          options={options}
          onChoose={choose}
        />
      ) : (
        words
      )}{" "}
      {kind === "once" && figure(name("at"))}
      {kind === "stretch" && (
        <>
          {figure(name("begin"))} to {figure(name("to"))}
        </>
      )}
      {kind === "months" && (
        <>
          {clause.begin !== "" && <>from payment {figure(name("begin"))} </>}
          <Months clause={clause} of={of} onChange={onChange} />
        </>
      )}
    </>
  );
}

/** What a clause does, as words and figures of the sentence. */
function What({ statement, clause, number, figure, onChange }: OneProps) {
  const { words } = useDesk();
  const of = `, clause ${number + 1}`;
  const amount = figure(`clauses.${number}.figure`);
  const unit = (
    <Choice
      name={`In${of}`}
      value={clause.in_percent ? "percent" : "amount"}
      shown={clause.in_percent ? "%" : statement.currency}
      options={[
        { value: "percent", label: clause.verb === "fee" ? "% of what is lent" : "percent" },
        { value: "amount", label: `an amount in ${statement.currency}` },
      ]}
      onChoose={(value) => onChange({ in_percent: value === "percent" })}
    />
  );
  const { often } = paymentPeriod(statement, words.periods);
  switch (clause.verb) {
    case "repay":
      return (
        <>
          {amount} is repaid{statement.count.trim() === "0" ? "" : " on top"}
        </>
      );
    case "advance":
      return <>we lend {amount} more</>;
    case "payment":
      return <>the payment is {amount}</>;
    case "pay":
      return (
        <Choice
          name={`Paid${of}`}
          value={clause.pay}
          shown={clause.pay === "nothing" ? "nothing is paid" : "only the interest is paid"}
          options={[
            { value: "nothing", label: "nothing is paid" },
            { value: "interest", label: "only the interest is paid" },
          ]}
          onChoose={(pay) => onChange({ pay: pay as Clause["pay"] })}
        />
      );
    case "rate":
      return (
        <>
          the rate is {amount} %{" "}
          <QuoteChoice
            quote={{ ...clause, every: statement.every }}
            name={`Quoted${of}`}
            onChoose={(quoting) =>
              onChange({ ...quoting, compounding: quoting.compounding ?? null })
            }
          />
          {isTimed(clause) && <> {figure(`clauses.${number}.over`)}</>}
        </>
      );
    case "step":
      return (
        <>
          the payment grows by {amount} {unit} every {figure(`clauses.${number}.every`)} {often}{" "}
          payments
        </>
      );
    case "fee":
      return (
        <>
          a fee of {amount} {unit} is{" "}
          <Choice
            name={`Taken${of}`}
            value={clause.taken}
            shown={TAKEN[clause.taken]}
            options={Object.entries(TAKEN).map(([value, label]) => ({ value, label }))}
            onChoose={(taken) => onChange({ taken: taken as Clause["taken"] })}
          />
        </>
      );
  }
}

/** What departs from the regular run, a line each; any verb can be added. */
export function Clauses({ statement, figure, notes, onChange, place = "" }: Props) {
  const { clauses } = statement;
  const add = (verb: Clause["verb"], seasonal = false) => {
    const clause = blank(verb, place, seasonal);
    onChange({ clauses: [...clauses, clause] });
    const first = clause.is_stretch && !seasonal ? "begin" : seasonal ? "figure" : "at";
    const field = place && verb !== "pay" ? "figure" : first;
    setTimeout(() =>
      document
        .querySelector<HTMLElement>(`[data-figure="clauses.${clauses.length}.${field}"]`)
        ?.focus(),
    );
  };
  const changed = (number: number, change: Partial<Clause>) =>
    onChange({
      clauses: clauses.map((each, k) => (k === number ? { ...each, ...change } : each)),
    });
  const button = "rounded px-1.5 font-sans text-soft hover:text-ink";
  return (
    <>
      {clauses.length > 0 && (
        <ol aria-label="Clauses" className="mt-1">
          {clauses.map((clause, number) => {
            const props = {
              statement,
              clause,
              number,
              figure,
              onChange: (change: Partial<Clause>) => changed(number, change),
            };
            const mayLevel =
              ["rate", "repay", "advance"].includes(clause.verb) &&
              !["0", "?"].includes(statement.count.trim());
            return (
              <li
                key={number}
                className="flex items-baseline gap-2 border-b border-rule font-serif text-[1.05rem] leading-[2.1rem]"
              >
                <div className="min-w-0 grow">
                  <Where {...props} /> <What {...props} />
                  {mayLevel && (
                    <>
                      ,{" "}
                      <Choice
                        name={`Then, clause ${number + 1}`}
                        value={clause.levels ? "levels" : "keeps"}
                        shown={
                          clause.levels ? "the payment is set anew" : "the payment stays as it is"
                        }
                        options={[
                          { value: "keeps", label: "the payment stays, the end moves" },
                          { value: "levels", label: "the payment is set anew, the end stays" },
                        ]}
                        onChoose={(value) => changed(number, { levels: value === "levels" })}
                      />
                    </>
                  )}
                  {(notes[number] ?? []).map((note) => (
                    <p key={note} className="pb-1 font-sans text-[0.9rem] leading-snug text-soft">
                      {note}
                    </p>
                  ))}
                </div>
                <button
                  aria-label={`Move clause ${number + 1} up`}
                  className={button}
                  disabled={number === 0}
                  onClick={() => {
                    const moved = [...clauses];
                    moved.splice(number - 1, 0, ...moved.splice(number, 1));
                    onChange({ clauses: moved });
                  }}
                >
                  ↑
                </button>
                <button
                  aria-label={`Take off clause ${number + 1}`}
                  className={button}
                  onClick={() => onChange({ clauses: clauses.filter((_, k) => k !== number) })}
                >
                  ×
                </button>
              </li>
            );
          })}
        </ol>
      )}
      <div className="mt-1 text-[0.95rem]">
        <Choice
          name="Add a clause"
          value=""
          shown={place ? `Add a clause at ${place}` : "Add a clause: except that …"}
          options={[
            ...Object.entries(VERBS).map(([value, label]) => ({ value, label })),
            ...(statement.start
              ? [{ value: "season", label: "nothing is paid in some months of the year" }]
              : []),
          ]}
          onChoose={(verb) => (verb === "season" ? add("pay", true) : add(verb as Clause["verb"]))}
        />
      </div>
    </>
  );
}
