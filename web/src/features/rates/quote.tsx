import type { ReactNode } from "react";
import type { Quoting } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Choice } from "../../ui/choice";
import { QuoteChoice } from "../../ui/quote-choice";
import {
  everyChosen,
  everyOptions,
  periodOf,
  quoteWords,
  styleOf,
  type Quoted,
} from "../../ui/quoting";
import { rich, t } from "../../texts";

interface Props {
  quote: Quoted;
  shown?: string | undefined;
  /** What distinguishes its choices from those of other quotes on the page. */
  of?: string;
  figure: (name: "over" | "count") => ReactNode;
  onQuoting: (quoting: Quoting) => void;
  onEvery: (every: Quoted["every"]) => void;
}

/** How often payments are made, as a word that opens into the others. */
export function EveryChoice({
  name,
  every,
  noun = false,
  onEvery,
}: {
  name: string;
  every: Quoted["every"];
  noun?: boolean;
  onEvery: (every: Quoted["every"]) => void;
}) {
  const { words } = useDesk();
  const period = periodOf(every, words);
  return (
    <Choice
      name={name}
      value={String(every)}
      shown={noun ? period.noun : period.often}
      options={everyOptions(every, words)}
      onChoose={(value) => onEvery(everyChosen(value))}
    />
  );
}

/** How a percent is quoted, with the time or the payments its style needs. */
export function QuotePart({ quote, shown, of = "", figure, onQuoting, onEvery }: Props) {
  const { words } = useDesk();
  const style = styleOf(quote, words);
  const said = quoteWords(quote, words);
  const [beforePeriod = ""] = style.said.split(" {noun}");
  return (
    <>
      <QuoteChoice
        quote={quote}
        name={t("Quoted{of}", { of })}
        shown={shown ?? (style.is_of_periods ? beforePeriod : said.before)}
        onChoose={onQuoting}
      />
      {style.is_timed && <> {figure("over")}</>}
      {said.after}
      {style.is_of_periods && (
        <>
          {" "}
          <EveryChoice name={t("Period{of}", { of })} every={quote.every} noun onEvery={onEvery} />
        </>
      )}
      {style.is_of_a_loan &&
        rich("{over} {count} {often} payments", {
          over: style.needs.split(" {")[0],
          count: figure("count"),
          often: <EveryChoice name={t("Paid{of}", { of })} every={quote.every} onEvery={onEvery} />,
        })}
    </>
  );
}
