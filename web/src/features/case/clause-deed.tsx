import { useDesk } from "../../hooks/use-desk";
import { filled, speakerOf, within } from "../../hooks/words";
import { OneOf } from "../../ui/choice";
import { QuoteChoice } from "../../ui/quote-choice";
import { isTimed, quoteWords } from "../../ui/quoting";
import type { OneProps } from "./clauses";

/** What a clause does, as words and figures of the sentence. */
export function Deed({ statement, clause, number, figure, onChange }: OneProps) {
  const { words } = useDesk();
  const of = `, clause ${number + 1}`;
  const amount = figure(`clauses.${number}.figure`);
  const unit = (
    <OneOf
      name={`In${of}`}
      value={clause.in_percent ? "percent" : "amount"}
      options={words.verbs.find((each) => each.name === clause.verb)?.units ?? []}
      fill={(said) => filled(said, { currency: statement.currency })}
      onChoose={(value) => onChange({ in_percent: value === "percent" })}
    />
  );
  const quote = { ...clause, every: statement.every };
  switch (clause.verb) {
    case "repay":
      return (
        <>
          {amount} is repaid{statement.count.trim() === "0" ? "" : " on top"}
        </>
      );
    case "advance":
      return (
        <>
          {within(speakerOf(statement.we, words).label)} {amount} more
        </>
      );
    case "payment":
      return <>the payment is {amount}</>;
    case "pay":
      return (
        <OneOf
          name={`Paid${of}`}
          value={clause.pay}
          options={words.choices.pay}
          onChoose={(pay) => onChange({ pay })}
        />
      );
    case "rate":
      return (
        <>
          the rate is <span className="whitespace-nowrap">{amount} %</span>{" "}
          <QuoteChoice
            quote={quote}
            name={`Quoted${of}`}
            onChoose={(quoting) =>
              onChange({ ...quoting, compounding: quoting.compounding ?? null })
            }
          />
          {isTimed(clause, words) && <> {figure(`clauses.${number}.over`)}</>}
          {quoteWords(quote, words).after}
        </>
      );
    case "step":
      return (
        <>
          the payment grows by {amount} {unit} every {figure(`clauses.${number}.every`)} payments
        </>
      );
    case "fee":
      return (
        <>
          a fee of {amount} {unit} is{" "}
          <OneOf
            name={`Taken${of}`}
            value={clause.taken}
            options={words.choices.taken}
            onChoose={(taken) => onChange({ taken })}
          />
        </>
      );
  }
}
