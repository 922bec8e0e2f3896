import type { ReactNode } from "react";
import type { Answer, Statement } from "../../api/client";
import { day } from "../../ui/moment";
import { inMarks, rounded, trimmed } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { paymentPeriod } from "../../ui/choices";
import { Curve } from "./curve";
import { Aimed } from "./aim";
import { FIGURES, statedFigures, textOf, titleOf, type EntryName } from "./figures";

interface Props {
  statement: Statement;
  answer: Answer | undefined;
  /** What is shown is the answer to what stood here before. */
  stale: boolean;
  /** The answer to what stands here now did not arrive. */
  failed: boolean;
  /** The answer to the last keystroke is on its way. */
  busy: boolean;
  onAsk: (name: EntryName) => void;
  onWorking: () => void;
  /** Puts what reaches an aim into the loan. */
  onTake: (name: EntryName, text: string) => void;
}

function Facts({ rows }: { rows: readonly (readonly [string, ReactNode])[] }) {
  return (
    <dl className="grid content-start gap-y-1">
      {rows.map(([name, value]) => (
        <div key={name} className="flex justify-between gap-4">
          <dt className="text-soft">{name}</dt>
          <dd className="max-w-[65%] shrink-0 text-right font-semibold break-words">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

function Rates({ answer, statement }: { answer: Answer; statement: Statement }) {
  const { marks, words } = useDesk();
  if (!answer.rates) return null;
  // Where clauses set other rates these are the terms' own.
  const several = statement.clauses.some((clause) => clause.verb === "rate");
  const { noun, often } = paymentPeriod(statement, words.periods);
  const percent = (text: string) => `${inMarks(rounded(text, 4), marks)}\u00a0%`;
  return (
    <Facts
      rows={[
        [
          several ? `Terms’ rate, each ${noun}` : `Rate for each ${noun}`,
          percent(answer.rates.periodic),
        ],
        [
          `${several ? "Terms’ rate, nominal" : "Nominal"} a year, ${often}`,
          percent(answer.rates.nominal),
        ],
        [
          `${several ? "Terms’ rate, effective" : "Effective"} a year`,
          percent(answer.rates.effective),
        ],
      ]}
    />
  );
}

/** Several rates fit and the flows do not tell which is meant: all of them, alike. */
function Several({ answer }: { answer: Answer }) {
  const { marks } = useDesk();
  return (
    <>
      <p className="flex items-center gap-2">
        <span aria-hidden className="size-2.5 rounded-full bg-unknown" />
        {answer.solutions.length} rates fit
      </p>
      {answer.solutions.map((each) => (
        <p key={each} className="flex flex-wrap items-baseline gap-x-3">
          <output className="text-[2.4rem] leading-[1.15] font-bold tracking-tight">
            {inMarks(trimmed(rounded(each, 6)), marks)}
          </output>
          <span className="text-xl text-soft">{answer.unit}</span>
        </p>
      ))}
      {answer.notes.map((note) => (
        <p key={note} className="mt-3 border-l-2 border-rule-strong pl-3 text-[0.95rem]">
          {note}
        </p>
      ))}
    </>
  );
}

/** Totals, dates and rates, each named for what it is. */
function Results({ answer, statement }: { answer: Answer; statement: Statement }) {
  const { marks } = useDesk();
  const { totals, yearly_cost: cost, costs, final_date: end } = answer;
  const charged = totals && /[1-9]/.test(totals.fees);
  const isPaid = (row: (typeof answer.schedule)[number]) =>
    /[1-9]/.test(row.payment) || (row.repay !== undefined && /[1-9]/.test(row.repay));
  const last = statement.clauses.length > 0 ? answer.schedule.findLast(isPaid) : undefined;
  const lentMore = answer.schedule.some((row) => row.advance && /[1-9]/.test(row.advance));
  const percent = (text: string) => `${inMarks(rounded(text, 4), marks)}\u00a0%`;
  return (
    <div className="mt-4 grid gap-x-8 gap-y-1 sm:grid-cols-2">
      {totals && (
        <Facts
          rows={[
            ["Total paid", inMarks(totals.paid, marks)],
            ["Total interest", inMarks(totals.interest, marks)],
            [
              last ? `Last payment, number ${last.number}` : "Last payment",
              inMarks(totals.final_payment, marks),
            ],
            ...(charged ? [["Fees", inMarks(totals.fees, marks)] as const] : []),
            ...(end ? [["Ends on", day(end)] as const] : []),
          ]}
        />
      )}
      <Rates answer={answer} statement={statement} />
      {costs && (charged || lentMore) && (
        <div className="sm:col-span-2">
          <Facts
            rows={[
              ["Net proceeds", inMarks(costs.net_proceeds, marks)],
              ["Total cost of credit", inMarks(costs.total_cost, marks)],
              ["Cost of each 1,000 lent", inMarks(costs.per_thousand, marks)],
              ...(costs.yield_nominal && costs.yield_effective
                ? [
                    [
                      "Lender’s yield, nominal, as it is paid",
                      percent(costs.yield_nominal),
                    ] as const,
                    ["Lender’s yield, effective a year", percent(costs.yield_effective)] as const,
                  ]
                : []),
            ]}
          />
        </div>
      )}
      {cost && (
        <div className="sm:col-span-2">
          <Facts
            rows={[
              ...(cost.us_apr
                ? [
                    [
                      "US actuarial rate a year, nominal (12 CFR 1026 App. J)",
                      percent(cost.us_apr),
                    ] as const,
                  ]
                : []),
              ...(cost.eu_aprc
                ? [
                    [
                      "EU annual percentage rate of charge, effective",
                      percent(cost.eu_aprc),
                    ] as const,
                  ]
                : []),
            ]}
          />
        </div>
      )}
    </div>
  );
}

/** Every figure stated: whether they fit, and what each would have to be. */
function Checked({
  answer,
  statement,
  onAsk,
}: Pick<Props, "statement" | "onAsk"> & { answer: Answer }) {
  const { marks } = useDesk();
  const [says, ...notes] = answer.notes;
  const fits = answer.would_fit ?? {};
  return (
    <>
      <p className="text-soft">Every figure is stated</p>
      <p className="mt-1 font-serif text-[1.6rem] leading-snug font-semibold">{says}</p>
      {notes.map((note) => (
        <p key={note} className="mt-2 border-l-2 border-rule-strong pl-3 text-[0.95rem]">
          {note}
        </p>
      ))}
      <p className="mt-1 text-[0.95rem] break-all text-soft">
        left over before rounding {inMarks(rounded(answer.gap ?? "0", 9), marks)} · {answer.paid_as}
      </p>
      <table className="mt-3 w-full">
        <caption className="text-left text-sm text-soft">
          With the other figures as stated, each would have to be
        </caption>
        <tbody>
          {FIGURES.map((name) => {
            const found = fits[name === "percent" ? "rate" : name];
            if (!found) return null;
            const shown =
              found.value && name === "percent" ? trimmed(rounded(found.value, 6)) : found.value;
            return (
              <tr key={name} className="border-b border-rule align-baseline">
                <th scope="row" className="py-1 pr-3 text-left font-normal text-soft">
                  {titleOf(name)}
                </th>
                <td className="py-1 text-right font-semibold">
                  {shown ? (
                    inMarks(shown, marks)
                  ) : (
                    <span className="font-normal">{found.reason}</span>
                  )}
                  {shown && name === "percent" && ` % ${answer.quote}`}
                </td>
                <td className="w-16 py-1 pl-3 text-right">
                  {shown && (
                    <button
                      className="text-choice underline"
                      aria-label={`find the ${titleOf(name).toLowerCase()}`}
                      onClick={() => onAsk(name)}
                    >
                      find
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Results answer={answer} statement={statement} />
    </>
  );
}

function Solved({
  answer,
  statement,
  stale,
  onWorking,
}: Omit<Props, "answer" | "onTake"> & { answer: Answer }) {
  const { marks } = useDesk();
  const { proof, asks, unit } = answer;
  const value = answer.value ?? "";
  const figure = inMarks(
    answer.unknown === "rate" || answer.unknown?.endsWith("percent")
      ? trimmed(rounded(value, 6))
      : value,
    marks,
  );
  const money = (text: string) => inMarks(text, marks);
  return (
    <>
      <p className="flex items-center gap-2">
        <span aria-hidden className="size-2.5 rounded-full bg-unknown" />
        {asks}
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
      <Results answer={answer} statement={statement} />
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
  const { answer, stale, failed, busy, statement, onTake } = props;
  const asksRate = answer?.unknown === "rate" || answer?.unknown?.endsWith("rate.percent");
  const blank = statedFigures(statement).filter((name) => textOf(statement, name).trim() === "");
  if (!answer)
    return (
      <section aria-label="Answer">
        <p className="font-serif text-2xl leading-snug text-soft">
          {busy && blank.length === 0
            ? "The answer stands here in a moment."
            : "The answer stands here as soon as the statement is whole."}
        </p>
        {blank.length > 0 && (
          <p className="mt-2">
            Still to be stated: {blank.map((name) => titleOf(name).toLowerCase()).join(", ")}.
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
          {failed
            ? "As last found, for what stood here before: the answer to what stands here now did not arrive."
            : "As last found. The statement is not whole now; its answer stands here once it is."}
        </p>
      )}
      {!answer.reason && <Aimed answer={answer} statement={statement} onTake={onTake} />}
      {answer.reason ? (
        <>
          <p className="flex items-center gap-2">
            <span aria-hidden className="size-2.5 rounded-full border-2 border-unknown" />
            There is no answer
          </p>
          <p className="mt-1 font-serif text-[1.75rem] leading-snug font-semibold">
            {answer.reason}
          </p>
          <Aimed answer={answer} statement={statement} onTake={onTake} />
          <div className="mt-4 max-w-sm">
            <Rates answer={answer} statement={statement} />
          </div>
        </>
      ) : answer.solutions.length > 0 && answer.value === null ? (
        <Several answer={answer} />
      ) : answer.unknown === null ? (
        <Checked {...props} answer={answer} />
      ) : (
        <Solved {...props} answer={answer} />
      )}
      {!stale && asksRate && (statement.clauses.length > 0 || answer.value === null) && (
        <Curve statement={statement} />
      )}
    </section>
  );
}
