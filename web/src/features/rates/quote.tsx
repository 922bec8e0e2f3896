import type { ReactNode } from "react";
import type { Quoting } from "../../api/client";
import { Choice } from "../../ui/choice";
import {
  everyChosen,
  everyOptions,
  isTimed,
  paymentPeriod,
  quoteWords,
  type Quoted,
} from "../../ui/choices";
import { QuoteChoice } from "../../ui/presets";
import { useDesk } from "../../hooks/use-desk";

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
  const period = paymentPeriod({ every }, words.periods);
  return (
    <Choice
      name={name}
      value={String(every)}
      shown={noun ? period.noun : period.often}
      options={everyOptions({ every }, words.periods)}
      onChoose={(value) => onEvery(everyChosen(value))}
    />
  );
}

/** How a percent is quoted, with the time or the payments its style needs. */
export function QuotePart({ quote, shown, of = "", figure, onQuoting, onEvery }: Props) {
  const { words } = useDesk();
  const style = quote.quoted === "periodic" ? "for each" : quoteWords(quote, words.periods);
  return (
    <>
      <QuoteChoice quote={quote} name={`Quoted${of}`} shown={shown ?? style} onChoose={onQuoting} />
      {isTimed(quote) && <> {figure("over")}</>}
      {quote.quoted === "periodic" && (
        <>
          {" "}
          <EveryChoice name={`Period${of}`} every={quote.every} noun onEvery={onEvery} />
        </>
      )}
      {quote.quoted === "flat" && (
        <>
          {" "}
          over {figure("count")}{" "}
          <EveryChoice name={`Paid${of}`} every={quote.every} onEvery={onEvery} /> payments
        </>
      )}
    </>
  );
}
