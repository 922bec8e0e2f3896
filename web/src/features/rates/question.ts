import { useSearchParams } from "react-router";
import type { Quoting, RateQuestion, Words } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { everyChosen, periodOf, styleOf, type Quoted } from "../../ui/quoting";

/** What can be typed of a quote. */
export type Name = "percent" | "times" | "effective" | "over" | "count";
const CONTINUOUS = "continuous";

/** The quote that is asked about; the address says it, so that a link can. */
export function useQuestion() {
  const { me, words } = useDesk();
  const [search, setSearch] = useSearchParams();
  const text = (name: string, blank: string) => search.get(name) ?? blank;
  const question = {
    // A link reads the same to someone who writes numbers otherwise.
    marks: (search.get("marks") ?? me.marks) as RateQuestion["marks"],
    percent: text("percent", ""),
    quoted: text("quoted", "nominal") as RateQuestion["quoted"],
    times: text("times", "2"),
    over: text("over", "90 days"),
    year_days: text("year_days", "365") === "360" ? (360 as const) : (365 as const),
    count: text("count", words.usual_count),
    every: everyChosen(text("every", "month")),
    effective: text("effective", "?"),
  };
  const set = (changed: Record<string, string>) => {
    const stated: Record<string, string> = {};
    for (const [name, value] of Object.entries(question)) stated[name] = String(value);
    setSearch({ ...stated, ...changed }, { replace: true });
  };
  return { question, set };
}

/** How often a year a compounding that was chosen is, as it is typed. */
export function timesOf({ compounding, quoted }: Quoting, every: Quoted["every"], words: Words) {
  if (compounding === CONTINUOUS) return CONTINUOUS;
  const chosen = styleOf({ quoted }, words).is_compounded ? (compounding ?? every) : 1;
  return String(periodOf(chosen, words).a_year);
}

/** The same quote as other pages hold it. */
export function quotedOf(question: ReturnType<typeof useQuestion>["question"]): Quoted {
  const times = Number(question.times);
  const isWhole = Number.isInteger(times) && times > 0;
  return {
    quoted: question.quoted,
    compounding: question.times === CONTINUOUS ? CONTINUOUS : isWhole ? times : null,
    over: question.over,
    year_days: question.year_days,
    every: question.every,
  };
}
