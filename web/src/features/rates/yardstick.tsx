import type { Comparison, QuoteList } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { OneOf } from "../../ui/choice";
import { CurrencyChoice } from "../../ui/currency";
import { Figure } from "../../ui/figure";
import { periodOf } from "../../ui/quoting";
import { EveryChoice } from "./quote";
import { filled, rich, t } from "../../texts";

interface Props {
  yardstick: QuoteList["yardstick"];
  /** How it was read, where that is of what stands here now. */
  found: Comparison | undefined;
  onChange: (changed: Partial<QuoteList["yardstick"]>) => void;
}

/** The loan on which the quotes are told in money. */
export function Yardstick({ yardstick, found, onChange }: Props) {
  const { words } = useDesk();
  const figure = (name: "principal" | "count") => (
    <Figure
      name={`loan-${name}`}
      title={words.entries[name]?.title ?? ""}
      text={yardstick[name]}
      reading={found?.yardstick[name]}
      error={found?.yardstick_errors.find((error) => error.field === name)?.message}
      onType={(text) => onChange({ [name]: text })}
      onFocus={() => undefined}
      onBlur={() => {
        const read = found?.yardstick[name];
        if (read?.text && !read.other) onChange({ [name]: read.text });
      }}
    />
  );
  const { noun } = periodOf(yardstick.every, words);
  return (
    <p className="mt-4 font-serif text-lg leading-[2.3rem]">
      {rich(
        "In money on a loan of {principal} {currency}, repaid by {count} {often} payments at the {end} of each {period}.",
        {
          principal: figure("principal"),
          currency: (
            <CurrencyChoice
              currency={yardstick.currency}
              onChoose={(currency) => onChange({ currency })}
            />
          ),
          count: figure("count"),
          often: (
            <EveryChoice
              name={t("Loan paid")}
              every={yardstick.every}
              onEvery={(every) => onChange({ every })}
            />
          ),
          end: (
            <OneOf
              name={t("Paid at the")}
              value={yardstick.timing}
              options={words.choices.timing}
              fill={(said) => filled(said, { noun })}
              onChoose={(timing) => onChange({ timing })}
            />
          ),
          period: noun,
        },
      )}
    </p>
  );
}
