import { useSaveBegins } from "../api/habits";
import type { Begins } from "../api/types";
import { useDesk } from "../hooks/use-desk";
import { Choice, OneOf } from "../ui/choice";
import { CurrencyChoice } from "../ui/currency";
import {
  everyChosen,
  everyOptions,
  periodOf,
  quoteChosen,
  quoteOptions,
  quoteValue,
  quoteWords,
} from "../ui/quoting";
import { Sheet } from "../ui/sheet";
import { Wrong } from "../ui/wrong";
import { filled, rich, t } from "../texts";

/** The styles a new case can begin with: those that need nothing else to be said. */
const STYLES = ["nominal", "effective", "continuous", "flat"];

/** How a new case begins, and what a line means that does not say it. */
export function BeginsSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const { me, words } = useDesk();
  const save = useSaveBegins();
  const { begins } = me;
  const set = (change: Partial<Begins>) => save.mutate({ ...begins, ...change });
  const quote = { ...begins, over: "", year_days: 365 as const };
  const { noun, often } = periodOf(begins.every, words);
  return (
    <Sheet
      title={t("How a case begins")}
      about={t(
        "Every new case of yours begins so, and a line that does not say otherwise means it.",
      )}
      open={open}
      onOpen={onOpen}
    >
      <p className="mt-4 font-serif text-xl leading-9">
        {rich(
          "Amounts in {currency}, rates quoted as percent {style}, paid {often} at the {end} of each {period}.",
          {
            currency: (
              <CurrencyChoice
                currency={begins.currency}
                onChoose={(currency) => set({ currency })}
              />
            ),
            style: (
              <Choice
                name={t("Quoted")}
                value={quoteValue(quote, words)}
                shown={quoteWords(quote, words).before}
                options={quoteOptions(quote, [], words).filter(({ value }) =>
                  STYLES.includes(value.split(":")[0] ?? ""),
                )}
                onChoose={(value) => {
                  const { quoted, compounding } = quoteChosen(value, quote, [], words);
                  set({ quoted: quoted as Begins["quoted"], compounding: compounding ?? null });
                }}
              />
            ),
            often: (
              <Choice
                name={t("Paid")}
                value={String(begins.every)}
                shown={often}
                options={everyOptions(begins.every, words)}
                onChoose={(value) => set({ every: everyChosen(value) })}
              />
            ),
            end: (
              <OneOf
                name={t("Paid at the")}
                value={begins.timing}
                options={words.choices.timing}
                fill={(said) => filled(said, { noun })}
                onChoose={(timing) => set({ timing })}
              />
            ),
            period: noun,
          },
        )}
      </p>
      <p className="mt-4 text-soft">
        {t(
          "How numbers are written is chosen at the top of every page, for what you type and read alike.",
        )}
      </p>
      <Wrong error={save.error} className="mt-3" />
    </Sheet>
  );
}
