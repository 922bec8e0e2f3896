import { useState } from "react";
import { useEquivalentRates } from "../../api/quotes";
import type { Quoting } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Figure } from "../../ui/figure";
import { Page, PageTitle } from "../../ui/page";
import { styleOf, type Quoted } from "../../ui/quoting";
import { Wrong } from "../../ui/wrong";
import { Footings } from "./footings";
import { Found } from "./found";
import { quotedOf, timesOf, useQuestion, type Name } from "./question";
import { EveryChoice, QuotePart } from "./quote";
import { RatesTabs } from "./tabs";
import { rich, t } from "../../texts";

/** A quote in any style, and the same rate in all the others. */
export function RatesPage() {
  const { words } = useDesk();
  const { question, set } = useQuestion();
  const [focus, setFocus] = useState<Name | null>(null);
  const worked = useEquivalentRates(question);
  const answer = worked.data;
  const current = worked.isSuccess && !worked.isPlaceholderData;
  const entries = words.quote_entries;
  const style = styleOf(question, words);
  const isAskable = (name: Name) =>
    entries[name]?.may_be_asked === true && (name !== "times" || style.is_compounded);
  const asked = (Object.keys(entries) as Name[]).find(
    (name) => isAskable(name) && question[name].trim() === "?",
  );
  const type = (name: Name, typed: string) => {
    if (!typed.includes("?") || !isAskable(name)) {
      set({ [name]: typed });
      return;
    }
    const changed: Record<string, string> = { [name]: "?" };
    if (asked && asked !== name) changed[asked] = answer?.value ?? "";
    set(changed);
  };
  const choose = (quoting: Quoting) =>
    set({
      quoted: quoting.quoted,
      // The ? moves to the effective rate where there is no compounding to find any more.
      ...(asked === "times" ? { effective: "?" } : {}),
      ...(styleOf(quoting, words).is_compounded
        ? { times: timesOf(quoting, question.every, words) }
        : {}),
      ...(quoting.over ? { over: quoting.over } : {}),
      year_days: String(quoting.year_days),
    });
  const figure = (name: Name) => (
    <Figure
      name={name}
      title={entries[name]?.title ?? ""}
      text={question[name]}
      reading={current ? answer?.readings[name] : undefined}
      error={current ? answer?.errors.find((error) => error.field === name)?.message : undefined}
      errorId={`wrong-${name}`}
      onType={(typed) => type(name, typed)}
      onFocus={() => setFocus(name)}
      onBlur={() => setFocus(null)}
    />
  );
  const quote = quotedOf(question);
  const isNominal = style.is_compounded && quote.compounding !== "continuous";
  // What is wrong in the field one is in stands under it; an empty one is only not stated yet.
  const listed = (current ? (answer?.errors ?? []) : []).filter(
    (error) => error.field !== focus && question[error.field as Name] !== "",
  );
  const every = (changed: Quoted["every"]) => set({ every: String(changed) });
  const days = question.year_days === 360 ? `, ${words.of_360_days}` : "";
  const [compounded = ""] = words.any_period.compounded.split(" {");
  const openly = style.said.replace("{compounded}", compounded) + days;
  return (
    <Page title={t("Rates")}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-8 gap-y-2">
        <PageTitle>{t("Rates")}</PageTitle>
        <RatesTabs />
      </div>
      <p className="mt-1 text-soft">
        {t(
          "A quote says that so many percent, so quoted, are so many effective a year. State all but one figure and put ? for that one.",
        )}
      </p>
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 lg:grid-cols-2">
        <section aria-label={t("Quote")}>
          <div className="font-serif text-[1.35rem] leading-[2.55rem]">
            {rich("{percent} % {quoted}{times}, is {effective} % effective a year.", {
              percent: figure("percent"),
              quoted: (
                <QuotePart
                  quote={quote}
                  shown={isNominal && quote.compounding === null ? openly : undefined}
                  figure={figure}
                  onQuoting={choose}
                  onEvery={every}
                />
              ),
              times: isNominal && rich(", {times} times a year", { times: figure("times") }),
              effective: figure("effective"),
            })}
          </div>
          <p className="mt-2 min-h-[2.7em] text-[0.95rem] text-soft">
            {focus && (
              <>
                <b className="text-ink">{entries[focus]?.title}.</b> {entries[focus]?.help}
                {isAskable(focus) && ` ${t("Type ? to have it found.")}`}
              </>
            )}
          </p>
          {listed.map((error) => (
            <div key={error.field + error.message} id={`wrong-${error.field}`}>
              <Wrong error={error} className="text-[0.95rem]" />
            </div>
          ))}
        </section>
        <section aria-label={t("Answer")} aria-live="polite">
          <Wrong error={worked.error} className="" />
          {answer?.unknown ? (
            <Found answer={answer} />
          ) : (
            <p className="font-serif text-2xl leading-snug text-soft">
              {t("The answer stands here as soon as all but one figure are stated.")}
            </p>
          )}
        </section>
      </div>
      {answer && (answer.footings ?? []).length > 0 && (
        <Footings answer={answer}>
          {t("The same rate in every style")}
          {!style.is_timed && rich(", simple and discount over {over}", { over: figure("over") })}
          {!style.is_of_a_loan &&
            rich(", flat over {count} {often} payments", {
              count: figure("count"),
              often: <EveryChoice name={t("Paid")} every={question.every} onEvery={every} />,
            })}
          .
        </Footings>
      )}
    </Page>
  );
}
