import type { ReactNode } from "react";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { speakerOf } from "../../hooks/words";
import { Choice, OneOf } from "../../ui/choice";
import { Hint } from "../../ui/hint";
import { QuoteChoice } from "../../ui/quote-choice";
import { everyChosen, everyOptions, isTimed, periodOf, quoteWords } from "../../ui/quoting";
import type { EntryName } from "./entries";
import type { Change } from "./two-ways";
import { Lent } from "./lent";
import { Repaid } from "./repaid";
import { filled, rich, t } from "../../texts";

interface Props {
  statement: Statement;
  figure: (name: EntryName) => ReactNode;
  /** Whether days are stated, or about to be. */
  dated: boolean;
  /** What is lent of a price, where that is known. */
  lent: string;
  /** Whether it is known that nothing is paid regularly. */
  unpaid: boolean;
  onChange: (change: Partial<Statement>) => void;
  /** A change that can be meant in two ways. */
  onAsk: (change: Change) => void;
}

/** Joined to the word before it, and not underlined with it. */
const COMMA = (
  <>
    {"\u2060"}
    <span className="inline-block text-ink">,</span>
  </>
);

/** The loan as one reads it aloud. */
export function Sentence({ statement, figure, dated, lent, unpaid, onChange, onAsk }: Props) {
  const { words } = useDesk();
  const { noun, often } = periodOf(statement.every, words);
  const speaker = speakerOf(statement.we, words);
  const isDeal = statement.count.trim() === "0";
  const repaying = words.choices.repaid.find(({ value }) => value === statement.repaid);
  const isRegular = repaying?.is_regular ?? true;
  const isPaid = !isDeal && !unpaid && isRegular;
  const isTwoWords = often.includes(" ");
  const { after } = quoteWords(statement, words);
  // Whether the words of the quote end where its list does.
  const isWhole = !after && !isTimed(statement, words);
  return (
    <div className="font-serif text-[1.35rem] leading-[2.3rem]">
      <Lent statement={statement} figure={figure} lent={lent} onChange={onChange} />{" "}
      {dated && <>{rich("on {start}", { start: figure("start") })} </>}
      {rich(
        "at {percent} {quoted}{over}{after}{comma} {repaid} {count} {payments}{often}{each}{paid}{left}",
        {
          percent: statement.floating ? (
            rich("{index} plus {margin} %", {
              index: statement.floating.index || t("an index"),
              margin: figure("floating.margin"),
            })
          ) : (
            <span className="whitespace-nowrap">{figure("percent")} %</span>
          ),
          quoted: (
            <QuoteChoice
              quote={statement}
              ends={isWhole && COMMA}
              onChoose={(quoting) =>
                statement.floating ? onChange(quoting) : onAsk({ requote: quoting })
              }
            />
          ),
          over: isTimed(statement, words) && <> {figure("over")}</>,
          after,
          comma: !isWhole && ",",
          repaid: isPaid ? speaker.repaid : speaker.without,
          count: figure("count"),
          payments: isPaid && isTwoWords && `${t("payments")} `,
          often: <Often statement={statement} isNoun={!isPaid} onAsk={onAsk} />,
          each: unpaid && !isDeal && isRegular && (
            <> {rich("({payment} each)", { payment: figure("payment") })}</>
          ),
          paid: !isDeal && (isPaid || !isRegular) && (
            <>
              {isPaid && " "}
              <Repaid
                statement={statement}
                payments={isPaid && !isTwoWords}
                figure={figure}
                onChange={onChange}
              />
              {isPaid && (
                <>
                  {" "}
                  {rich("at the {end} of each {period}", {
                    end: (
                      <Hint of={[statement.timing.replace("-", "_")]}>
                        <OneOf
                          name={t("Paid at the")}
                          value={statement.timing}
                          options={words.choices.timing}
                          fill={(said) => filled(said, { noun })}
                          onChoose={(timing) => onChange({ timing })}
                        />
                      </Hint>
                    ),
                    period: noun,
                  })}
                </>
              )}
              {dated && (
                <> {rich("from {firstPayment}", { firstPayment: figure("first_payment") })}</>
              )}
            </>
          ),
          left:
            (isDeal || (repaying?.states_balance ?? true)) &&
            rich(", with {balance} {there} at the end", {
              balance: figure("balance"),
              there: speaker.there,
            }),
        },
      )}
      {statement.clauses.length > 0 ? t(", except that") : "."}
    </div>
  );
}

/** How often it is paid: "monthly", or the periods themselves: "months". */
function Often({
  statement,
  isNoun,
  onAsk,
}: Pick<Props, "statement" | "onAsk"> & { isNoun: boolean }) {
  const { words } = useDesk();
  const { noun, often } = periodOf(statement.every, words);
  return (
    <span data-list="every">
      <Choice
        name={t("Paid")}
        value={String(statement.every)}
        shown={isNoun ? `${noun}s` : often}
        options={everyOptions(statement.every, words)}
        onChoose={(value) => onAsk({ repace: everyChosen(value) })}
      />
    </span>
  );
}
