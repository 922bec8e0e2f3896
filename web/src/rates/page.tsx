import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { ask, client, type RateAnswer, type RateQuestion } from "../api/client";
import { Choice } from "../ui/choice";
import { Figure } from "../ui/figure";
import { useDesk } from "../ui/settings";

type Name = "percent" | "times" | "effective";

const TITLE: Record<Name, string> = {
  percent: "Percent as quoted",
  times: "Times a year",
  effective: "Effective percent a year",
};
const HELP: Record<Name, string> = {
  percent: "The nominal yearly rate as it is quoted. Such as 6.35 or 6 3/8.",
  times: "How many times a year interest is added. Such as 2, 12 or 365.",
  effective: "What one year really adds, interest on interest with it. Such as 6.4508.",
};
const STYLES = {
  effective: "Effective",
  nominal: "Nominal a year",
  continuous: "Continuous",
  periodic: "Periodic",
} as const;

function Footings({ answer }: { answer: RateAnswer }) {
  const groups = (Object.keys(STYLES) as (keyof typeof STYLES)[]).map((style) => ({
    style,
    rows: (answer.footings ?? []).filter((footing) => footing.style === style),
  }));
  return (
    <div className="mt-6 overflow-x-auto rounded-lg border border-rule bg-sheet">
      <table className="w-full">
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
    percent: "% nominal a year",
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

/** A quote in any style, and the same rate in all the others. */
export function RatesPage() {
  const { me, words } = useDesk();
  const [search, setSearch] = useSearchParams();
  const [focus, setFocus] = useState<Name | null>(null);
  const text = (name: Name, blank: string) => search.get(name) ?? blank;
  const question: RateQuestion = {
    // A link reads the same to someone who writes numbers otherwise.
    marks: (search.get("marks") ?? me.marks) as RateQuestion["marks"] & string,
    percent: text("percent", ""),
    times: text("times", "2"),
    effective: text("effective", "?"),
  };
  const worked = useQuery({
    queryKey: ["rates", question],
    queryFn: ({ signal }) => ask(client.POST("/api/rates", { body: question, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const answer = worked.data;
  const current = worked.isSuccess && !worked.isPlaceholderData;
  const set = (changed: Partial<Record<Name, string>>) =>
    setSearch(
      {
        marks: question.marks ?? me.marks,
        percent: question.percent ?? "",
        times: question.times ?? "",
        effective: question.effective ?? "",
        ...changed,
      },
      { replace: true },
    );

  const asked = (["percent", "times", "effective"] as const).find(
    (name) => question[name]?.trim() === "?",
  );
  const type = (name: Name, typed: string) => {
    if (!typed.includes("?")) return set({ [name]: typed });
    const changed: Partial<Record<Name, string>> = { [name]: "?" };
    if (asked && asked !== name) changed[asked] = answer?.value ?? "";
    set(changed);
  };
  const figure = (name: Name) => (
    <Figure
      name={name}
      title={TITLE[name]}
      text={question[name] ?? ""}
      reading={current ? answer?.readings[name] : undefined}
      error={current ? answer?.errors.find((error) => error.field === name)?.message : undefined}
      errorId={`wrong-${name}`}
      onType={(typed) => type(name, typed)}
      onFocus={() => setFocus(name)}
      onBlur={() => setFocus(null)}
    />
  );
  const continuous = question.times === "continuous";
  const period = words.periods.find((each) => String(each.a_year) === question.times?.trim());
  // What is wrong in the field one is in stands under it; an empty one is only not stated yet.
  const listed = (current ? (answer?.errors ?? []) : []).filter(
    (error) => error.field !== focus && question[error.field as Name] !== "",
  );
  return (
    <main className="mx-auto max-w-[1280px] px-4 py-6 sm:px-8">
      <title>Rates · Zephyrant</title>
      <h1 className="font-serif text-3xl font-semibold">Rates</h1>
      <p className="mt-1 text-soft">
        A quote says that so many percent, so compounded, are so many effective a year. State two of
        the three and put ? for the third.
      </p>
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 lg:grid-cols-2">
        <section aria-label="Quote">
          <div className="font-serif text-[1.35rem] leading-[2.55rem]">
            {figure("percent")} % nominal a year, compounded{" "}
            {!continuous && <>{figure("times")} times a year, </>}
            <Choice
              name="Compounded"
              value={question.times ?? ""}
              shown={continuous ? "continuously" : (period?.often ?? "or as named")}
              options={[
                ...words.periods.map((each) => ({
                  value: String(each.a_year),
                  label: each.often,
                })),
                { value: "continuous", label: "continuously" },
              ]}
              onChoose={(times) => set({ times })}
            />
            , is {figure("effective")} % effective a year.
          </div>
          <p className="mt-2 min-h-[2.7em] text-[0.95rem] text-soft">
            {focus && (
              <>
                <b className="text-ink">{TITLE[focus]}.</b> {HELP[focus]} Type ? to have it found.
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
              The answer stands here as soon as two of the three are stated.
            </p>
          )}
        </section>
      </div>
      {answer && (answer.footings ?? []).length > 0 && <Footings answer={answer} />}
    </main>
  );
}
