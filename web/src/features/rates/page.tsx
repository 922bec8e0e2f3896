import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { useSearchParams } from "react-router";
import {
  ask,
  client,
  type Quoting,
  type RateAnswer,
  type RateQuestion,
  type Words,
} from "../../api/client";
import { everyChosen, isTimed, paymentPeriod, type Quoted } from "../../ui/choices";
import { Figure } from "../../ui/figure";
import { useDesk } from "../../hooks/use-desk";
import { EveryChoice, QuotePart } from "./quote";
import { RatesTabs } from "./tabs";

type Asked = "percent" | "times" | "effective";
type Name = Asked | "over" | "count";

const TITLE: Record<Name, string> = {
  percent: "Percent as quoted",
  times: "Times a year",
  effective: "Effective percent a year",
  over: "Charged for",
  count: "Payments of the flat quote",
};
const HELP: Record<Name, string> = {
  percent: "The rate as it is quoted; the words after it say how. Such as 6.35 or 6 3/8.",
  times: "How many times a year interest is added. Such as 2, 12 or 365.",
  effective: "What one year really adds, interest on interest with it. Such as 6.4508.",
  over: "The time simple interest or discount is charged for at once. Such as 90 days or 6 months.",
  count: "How many level payments a flat quote is over. Such as 60 or 5 years.",
};
const STYLES = {
  effective: "Effective",
  nominal: "Nominal a year",
  continuous: "Continuous",
  periodic: "Periodic",
  timed: "Over a time",
  flat: "Flat (add-on)",
  "of-360-days": "Year of 360 days",
} as const;

function Footings({ answer, children }: { answer: RateAnswer; children: ReactNode }) {
  const groups = (Object.keys(STYLES) as (keyof typeof STYLES)[]).map((style) => ({
    style,
    rows: (answer.footings ?? []).filter((footing) => footing.style === style),
  }));
  return (
    <div className="mt-6 overflow-x-auto rounded-lg border border-rule bg-sheet">
      <p className="px-4 pt-3 font-serif text-lg">{children}</p>
      <table className="mt-1 w-full">
        <thead>
          <tr className="border-b border-ink text-sm text-soft">
            <th className="px-4 py-1.5 text-left font-normal">Style</th>
            <th className="px-4 py-1.5 text-left font-normal">Quoted</th>
            <th className="px-4 py-1.5 text-right font-normal">As printed</th>
            <th className="px-4 py-1.5 text-right font-normal">To 30 digits, percent</th>
          </tr>
        </thead>
        {groups.map(({ style, rows }) => (
          <tbody key={style}>
            {rows.map((row, place) => (
              <tr key={row.name} className="border-b border-rule">
                {place === 0 && (
                  <th
                    scope="rowgroup"
                    rowSpan={rows.length}
                    className="px-4 py-1 text-left align-top font-semibold"
                  >
                    {STYLES[style]}
                  </th>
                )}
                <td className="px-4 py-1 text-soft">{row.name}</td>
                <td className="px-4 py-1 text-right font-semibold whitespace-nowrap">
                  {row.printed}
                </td>
                <td className="px-4 py-1 text-right text-sm text-soft">{row.exact}</td>
              </tr>
            ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}

function Found({ answer }: { answer: RateAnswer }) {
  if (answer.reason)
    return (
      <>
        <p className="flex items-center gap-2">
          <span aria-hidden className="size-2.5 rounded-full border-2 border-unknown" />
          There is no answer
        </p>
        <p className="mt-1 font-serif text-[1.6rem] leading-snug font-semibold">{answer.reason}</p>
      </>
    );
  const unit = {
    percent: `% ${answer.quote ?? ""}`,
    times: "times a year",
    effective: "% effective a year",
  }[answer.unknown ?? "effective"];
  return (
    <>
      <p className="flex items-center gap-2">
        <span aria-hidden className="size-2.5 rounded-full bg-unknown" />
        {answer.unknown === "times" ? "It is compounded" : "The rate is"}
      </p>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <output className="text-[3.2rem] leading-[1.1] font-bold tracking-tight break-all">
          {answer.value}
        </output>
        <span className="text-xl text-soft">{unit}</span>
      </p>
      <p className="mt-1 text-[0.95rem] break-all text-soft">to 30 digits {answer.exact}</p>
      {answer.note && <p className="mt-2">{answer.note}</p>}
      {(answer.working ?? []).map((step) => (
        <p key={step.formula} className="mt-2 text-[0.95rem]">
          <span className="font-serif text-soft italic">{step.formula}</span>
          <br />
          {step.numbers} <span aria-hidden>→</span> <b>{step.result}</b>
        </p>
      ))}
    </>
  );
}

/** How often a year a compounding chosen by name is, as it is typed. */
function timesOf({ compounding, quoted }: Quoting, every: Quoted["every"], words: Words): string {
  if (compounding === "continuous") return "continuous";
  const chosen = quoted === "nominal" ? (compounding ?? every) : 1;
  return String(paymentPeriod({ every: chosen }, words.periods).a_year);
}

/** A quote in any style, and the same rate in all the others. */
export function RatesPage() {
  const { me, words } = useDesk();
  const [search, setSearch] = useSearchParams();
  const [focus, setFocus] = useState<Name | null>(null);
  const text = (name: string, blank: string) => search.get(name) ?? blank;
  const question = {
    // A link reads the same to someone who writes numbers otherwise.
    marks: (search.get("marks") ?? me.marks) as RateQuestion["marks"],
    percent: text("percent", ""),
    quoted: text("quoted", "nominal") as RateQuestion["quoted"],
    times: text("times", "2"),
    over: text("over", "90 days"),
    year_days: text("year_days", "365") === "360" ? (360 as const) : (365 as const),
    count: text("count", "60"),
    every: everyChosen(text("every", "month")),
    effective: text("effective", "?"),
  };
  const worked = useQuery({
    queryKey: ["rates", question],
    queryFn: ({ signal }) =>
      ask(client.POST("/api/v1/ask/equivalent-rates", { body: question, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const answer = worked.data;
  const current = worked.isSuccess && !worked.isPlaceholderData;
  const set = (changed: Record<string, string>) => {
    const stated: Record<string, string> = {};
    for (const [name, value] of Object.entries(question)) stated[name] = String(value);
    setSearch({ ...stated, ...changed }, { replace: true });
  };

  const nominal = question.quoted === "nominal";
  const askable: readonly Asked[] = nominal
    ? ["percent", "times", "effective"]
    : ["percent", "effective"];
  const asked = askable.find((name) => question[name].trim() === "?");
  const type = (name: Name, typed: string) => {
    const may = askable.some((each) => each === name);
    if (!typed.includes("?") || !may) {
      set({ [name]: typed });
      return;
    }
    const changed: Record<string, string> = { [name]: "?" };
    if (asked && asked !== name) changed[asked] = answer?.value ?? "";
    set(changed);
  };
  const choose = (quoting: Quoting) => {
    const times = timesOf(quoting, question.every, words);
    set({
      quoted: quoting.quoted,
      // The ? moves to the effective rate where there is no compounding to find any more.
      ...(asked === "times" ? { effective: "?" } : {}),
      ...(quoting.quoted === "nominal" ? { times } : {}),
      ...(quoting.over ? { over: quoting.over } : {}),
      year_days: String(quoting.year_days),
    });
  };
  const figure = (name: Name) => (
    <Figure
      name={name}
      title={TITLE[name]}
      text={question[name]}
      reading={current ? answer?.readings[name] : undefined}
      error={current ? answer?.errors.find((error) => error.field === name)?.message : undefined}
      errorId={`wrong-${name}`}
      onType={(typed) => type(name, typed)}
      onFocus={() => setFocus(name)}
      onBlur={() => setFocus(null)}
    />
  );
  const continuous = question.times === "continuous";
  const times = Number(question.times);
  const quote: Quoted = {
    quoted: question.quoted,
    compounding: continuous ? "continuous" : Number.isInteger(times) && times > 0 ? times : null,
    over: question.over,
    year_days: question.year_days,
    every: question.every,
  };
  // What is wrong in the field one is in stands under it; an empty one is only not stated yet.
  const listed = (current ? (answer?.errors ?? []) : []).filter(
    (error) => error.field !== focus && question[error.field as Name] !== "",
  );
  const known = nominal && !continuous && quote.compounding !== null;
  const days = question.year_days === 360 ? ", year of 360 days" : "";
  const every = (changed: Quoted["every"]) => set({ every: String(changed) });
  return (
    <main className="mx-auto max-w-[1280px] px-4 py-6 sm:px-8">
      <title>Rates · Zephyrant</title>
      <div className="flex flex-wrap items-baseline justify-between gap-x-8 gap-y-2">
        <h1 className="font-serif text-3xl font-semibold">Rates</h1>
        <RatesTabs />
      </div>
      <p className="mt-1 text-soft">
        A quote says that so many percent, so quoted, are so many effective a year. State all but
        one figure and put ? for that one.
      </p>
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 lg:grid-cols-2">
        <section aria-label="Quote">
          <div className="font-serif text-[1.35rem] leading-[2.55rem]">
            {figure("percent")} %{" "}
            <QuotePart
              quote={quote}
              shown={
                nominal && !known && !continuous ? `nominal a year, compounded${days}` : undefined
              }
              figure={figure}
              onQuoting={choose}
              onEvery={every}
            />
            {nominal && !continuous && <>, {figure("times")} times a year</>}, is{" "}
            {figure("effective")} % effective a year.
          </div>
          <p className="mt-2 min-h-[2.7em] text-[0.95rem] text-soft">
            {focus && (
              <>
                <b className="text-ink">{TITLE[focus]}.</b> {HELP[focus]}
                {askable.some((each) => each === focus) && " Type ? to have it found."}
              </>
            )}
          </p>
          {listed.map((error) => (
            <p
              key={error.field + error.message}
              id={`wrong-${error.field}`}
              role="alert"
              className="text-[0.95rem] text-wrong"
            >
              {error.message}
            </p>
          ))}
        </section>
        <section aria-label="Answer" aria-live="polite">
          {worked.error && (
            <p role="alert" className="text-wrong">
              {worked.error.message}
            </p>
          )}
          {answer && answer.unknown ? (
            <Found answer={answer} />
          ) : (
            <p className="font-serif text-2xl leading-snug text-soft">
              The answer stands here as soon as all but one figure are stated.
            </p>
          )}
        </section>
      </div>
      {answer && (answer.footings ?? []).length > 0 && (
        <Footings answer={answer}>
          The same rate in every style
          {!isTimed(quote) && <>, simple and discount over {figure("over")}</>}
          {question.quoted !== "flat" && (
            <>
              , flat over {figure("count")}{" "}
              <EveryChoice name="Paid" every={question.every} onEvery={every} /> payments
            </>
          )}
          .
        </Footings>
      )}
    </main>
  );
}
