import { useDesk } from "../../hooks/use-desk";
import { speakerOf, within } from "../../hooks/words";
import { OneOf } from "../../ui/choice";
import { Field } from "../../ui/field";
import { QuoteChoice } from "../../ui/quote-choice";
import { isTimed, quoteWords } from "../../ui/quoting";
import type { OneProps } from "./clauses";
import { filled, rich, t } from "../../texts";

/** What a clause does, as words and figures of the sentence. */
export function Deed({ statement, clause, number, figure, onChange }: OneProps) {
  const { words } = useDesk();
  const of = t(", clause {number}", { number: number + 1 });
  const amount = figure(`clauses.${number}.figure`);
  const unit = (
    <OneOf
      name={t("In{of}", { of })}
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
          {statement.count.trim() === "0"
            ? rich("{amount} is repaid", { amount })
            : rich("{amount} is repaid on top", { amount })}
        </>
      );
    case "advance":
      return rich("{somebody} {amount} more", {
        somebody: within(speakerOf(statement.we, words).label),
        amount,
      });
    case "payment":
      return rich("the payment is {amount}", { amount });
    case "pay":
      return (
        <OneOf
          name={t("Paid{of}", { of })}
          value={clause.pay}
          options={words.choices.pay}
          onChoose={(pay) => onChange({ pay })}
        />
      );
    case "rate":
      return rich("the rate is {percent} {quoted}{over}{after}", {
        percent: <span className="whitespace-nowrap">{amount} %</span>,
        quoted: (
          <QuoteChoice
            quote={quote}
            name={t("Quoted{of}", { of })}
            onChoose={(quoting) =>
              onChange({ ...quoting, compounding: quoting.compounding ?? null })
            }
          />
        ),
        over: isTimed(clause, words) && <> {figure(`clauses.${number}.over`)}</>,
        after: quoteWords(quote, words).after,
      });
    case "step":
      return rich("the payment grows by {amount} {unit} every {count} payments", {
        amount,
        unit,
        count: figure(`clauses.${number}.every`),
      });
    case "charge":
      return rich("a charge of {amount} {unit}{of} is collected for {name}, {counted}", {
        amount,
        unit,
        of: clause.in_percent && (
          <>
            {" "}
            <OneOf
              name={t("Of{of}", { of })}
              value={clause.of}
              options={words.choices.charged_of}
              onChoose={(chosen) => onChange({ of: chosen })}
            />
          </>
        ),
        name: (
          <Field
            name={t("For what{of}", { of })}
            value={clause.name}
            placeholder={t("what")}
            className="w-32 text-base"
            onType={(name) => onChange({ name })}
          />
        ),
        counted: (
          <OneOf
            name={t("Counted{of}", { of })}
            value={clause.in_costs ? "yes" : "no"}
            options={words.choices.in_costs}
            onChoose={(counted) => onChange({ in_costs: counted === "yes" })}
          />
        ),
      });
    case "fee":
      return rich("a fee of {amount} {unit} is {taken}", {
        amount,
        unit,
        taken: (
          <OneOf
            name={t("Taken{of}", { of })}
            value={clause.taken}
            options={words.choices.taken}
            onChoose={(taken) => onChange({ taken })}
          />
        ),
      });
  }
}
