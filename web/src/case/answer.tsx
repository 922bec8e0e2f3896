import type { ReactNode } from "react";
import type { Answer, Statement } from "../api/client";
import { inMarks, rounded, trimmed } from "../ui/numbers";
import { useDesk } from "../ui/settings";
import { paymentPeriod } from "../ui/choices";
import { TITLE, FIGURES, type FigureName } from "./figures";

interface Props {
  statement: Statement;
  answer: Answer | undefined;
  /** Nothing is marked with the ?. */
  nothingAsked: boolean;
  /** What is shown is the answer to what stood here before. */
  stale: boolean;
  /** The answer to the last keystroke is on its way. */
  busy: boolean;
  onAsk: (name: FigureName) => void;
  onWorking: () => void;
}

function Facts({ rows }: { rows: readonly (readonly [string, ReactNode])[] }) {
  return (
    <dl className="grid content-start gap-y-1">
      {rows.map(([name, value]) => (
        <div key={name} className="flex justify-between gap-4">
          <dt className="text-soft">{name}</dt>
          <dd className="min-w-0 text-right font-semibold break-all">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

function Rates({ answer, statement }: { answer: Answer; statement: Statement }) {
  const { marks, words } = useDesk();
  if (!answer.rates) return null;
  const { noun, often } = paymentPeriod(statement, words.periods);
  const percent = (text: string) => `${inMarks(rounded(text, 4), marks)} %`;
  return (
    <Facts
      rows={[
        [`Rate for each ${noun}`, percent(answer.rates.periodic)],
        [`Nominal a year, ${often}`, percent(answer.rates.nominal)],
        ["Effective a year", percent(answer.rates.effective)],
      ]}
    />
  );
}

function useHeadline(answer: Answer, statement: Statement): [string, string, string] {
  const { marks, words } = useDesk();
  const { often } = paymentPeriod(statement, words.periods);
  const value = answer.value ?? "";
  switch (answer.unknown) {
    case "payment":
      return [`Each ${often} payment is`, inMarks(value, marks), statement.currency];
    case "principal":
      return ["The amount lent is", inMarks(value, marks), statement.currency];
    case "balance":
      return ["Still owed at the end is", inMarks(value, marks), statement.currency];
    case "count":
      return [
        "It is repaid by",
        inMarks(value, marks),
        `${often} ${value === "1" ? "payment" : "payments"}`,
      ];
    case "rate":
      return ["The rate is", inMarks(trimmed(rounded(value, 6)), marks), `% ${answer.quote}`];
  }
}

function Solved({
  answer,
  statement,
  stale,
  onWorking,
}: Omit<Props, "answer"> & { answer: Answer }) {
  const { marks } = useDesk();
  const [named, figure, unit] = useHeadline(answer, statement);
  const { totals, proof } = answer;
  const money = (text: string) => inMarks(text, marks);
  return (
    <>
      <p className="flex items-center gap-2">
        <span aria-hidden className="size-2.5 rounded-full bg-unknown" />
        {named}
      </p>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <output
          className={`text-[3.4rem] leading-[1.1] font-bold tracking-tight break-all ${stale ? "text-soft" : ""}`}
        >
          {figure}
        </output>
        <span className="text-xl text-soft">{unit}</span>
      </p>
      <p className="mt-1 text-[0.95rem] text-soft">
        {answer.exact && `before rounding ${money(rounded(answer.exact, 9))}`}
        {answer.paid_as && ` · ${answer.paid_as}`}
      </p>
      <div className="mt-4 grid gap-x-8 gap-y-1 sm:grid-cols-2">
        {totals && (
          <Facts
            rows={[
              ["Total paid", money(totals.paid)],
              ["Total interest", money(totals.interest)],
              ["Last payment", money(totals.final_payment)],
            ]}
          />
        )}
        <Rates answer={answer} statement={statement} />
      </div>
      {answer.notes.map((note) => (
        <p key={note} className="mt-3 border-l-2 border-rule-strong pl-3 text-[0.95rem]">
          {note}
        </p>
      ))}
      {proof && (
        <p className={`mt-4 text-[0.95rem] ${proof.holds ? "text-good" : "text-wrong"}`}>
          <span aria-hidden className="font-bold">
            {proof.holds ? "✓" : "✗"}
          </span>{" "}
          {proof.says}{" "}
          <button className="ml-1 text-ink underline" onClick={onWorking}>
            Working
          </button>
        </p>
      )}
    </>
  );
}

/** The answer, the largest thing on the page; or the reason there is none, just as large. */
export function AnswerPanel(props: Props) {
  const { answer, nothingAsked, stale, busy, onAsk, statement } = props;
  const blank = FIGURES.filter((name) => statement[name].trim() === "");
  if (nothingAsked && blank.length === 0)
    return (
      <section aria-label="Answer">
        <p className="text-soft">Nothing is asked</p>
        <p className="font-serif text-2xl leading-snug font-semibold">
          Every figure is stated. Which one is to be found?
        </p>
        <div className="mt-3 flex flex-wrap gap-2">
          {FIGURES.map((name) => (
            <button
              key={name}
              className="rounded-full border border-rule-strong bg-sheet px-3 py-1"
              onClick={() => onAsk(name)}
            >
              {TITLE[name]}
            </button>
          ))}
        </div>
      </section>
    );
  if (!answer)
    return (
      <section aria-label="Answer">
        <p className="font-serif text-2xl leading-snug text-soft">
          The answer stands here as soon as the statement is whole.
        </p>
        {blank.length > 0 && (
          <p className="mt-2">
            Still to be stated: {blank.map((name) => TITLE[name].toLowerCase()).join(", ")}.
          </p>
        )}
      </section>
    );
  return (
    <section
      aria-label="Answer"
      aria-live="polite"
      aria-busy={busy}
      className={stale ? "border-l-2 border-dashed border-rule-strong pl-4" : ""}
    >
      {stale && (
        <p className="text-sm text-soft">
          As last found. The statement is not whole now; its answer stands here once it is.
        </p>
      )}
      {answer.reason ? (
        <>
          <p className="flex items-center gap-2">
            <span aria-hidden className="size-2.5 rounded-full border-2 border-unknown" />
            There is no answer
          </p>
          <p className="mt-1 font-serif text-[1.75rem] leading-snug font-semibold">
            {answer.reason}
          </p>
          <div className="mt-4 max-w-sm">
            <Rates answer={answer} statement={statement} />
          </div>
        </>
      ) : (
        <Solved {...props} answer={answer} />
      )}
    </section>
  );
}
