import type { Option, PeriodWord, Preset, Quoting, Statement, Words } from "../api/types";
import { filled, t } from "../texts";

type Compounding = Quoting["compounding"];
type Every = Statement["every"];

/** The part of a statement, or of any quote, that says how its percent is quoted. */
export type Quoted = Pick<Quoting, "quoted" | "compounding" | "over" | "year_days"> & {
  every: Every;
};

/** What can be chosen, and the heading it stands under. */
export type Choosable = Pick<Option, "value" | "label"> & { under?: string };

/** A period in words, by its name or by how many of them make a year. */
export function periodOf(every: Every, { periods, any_period: any }: Words): PeriodWord {
  const found = periods.find((each) => each.name === every || each.a_year === every);
  if (found) return found;
  const n = String(every);
  return {
    name: n,
    a_year: Number(every),
    often: filled(any.often, { n }),
    noun: filled(any.noun, { n }),
    compounded: filled(any.compounded, { n }),
  };
}

function compoundedWords(compounding: Compounding, every: Every, words: Words): string {
  if (compounding === "continuous") return words.continuously;
  return periodOf(compounding ?? every, words).compounded;
}

/** What is known of the style of a quote. */
export function styleOf({ quoted }: Pick<Quoting, "quoted">, words: Words) {
  const found = words.styles.find((each) => each.name === quoted);
  if (!found) throw new Error(`unknown style ${quoted}`);
  return found;
}

/** Whether the percent is charged for a stated time. */
export function isTimed(quote: Pick<Quoting, "quoted">, words: Words): boolean {
  return styleOf(quote, words).is_timed;
}

/** How the rate is quoted as the words of the sentence: those before what it needs, a time or
 *  payments, and those after. */
export function quoteWords(quote: Quoted, words: Words): { before: string; after: string } {
  const style = styleOf(quote, words);
  const said = filled(style.said, {
    compounded: compoundedWords(quote.compounding, quote.every, words),
    noun: periodOf(quote.every, words).noun,
  });
  const [needs = ""] = style.is_timed ? style.needs.split(" {") : [];
  const days = style.is_scaled && quote.year_days === 360 ? `, ${words.of_360_days}` : "";
  return style.is_timed
    ? { before: said + needs, after: days }
    : { before: said + days, after: "" };
}

/** The choice that stands for a quote among `quoteOptions`. */
export function quoteValue({ quoted, compounding }: Quoted, words: Words): string {
  return styleOf({ quoted }, words).is_compounded ? `${quoted}:${compounding ?? ""}` : quoted;
}

/** A quote without what its style does not need. */
export function plainQuote(quote: Quoted): Quoting {
  const { quoted, compounding, over, year_days } = quote;
  return {
    quoted,
    compounding: compounding ?? null,
    over: over ?? "",
    year_days: year_days ?? 365,
  };
}

/** What choosing an option of `quoteOptions` makes of a quote. */
export function quoteChosen(
  value: string,
  quote: Quoted,
  presets: readonly Preset[],
  words: Words,
): Quoting {
  const [kind = "", part = ""] = value.split(":");
  const now = plainQuote(quote);
  if (kind === "preset") return presets[Number(part)]?.quoting ?? now;
  if (kind === "days") return { ...now, year_days: part === "360" ? 360 : 365 };
  const chosen = { ...now, quoted: kind as Quoting["quoted"], compounding: null };
  if (isTimed(chosen, words)) return { ...chosen, over: now.over || words.usual_time };
  const named = (part || null) as Exclude<Compounding, undefined>;
  return { ...chosen, compounding: /^\d+$/.test(part) ? Number(part) : named };
}

/** Every way a rate can be quoted, the analyst's own habits first. */
export function quoteOptions(
  quote: Quoted,
  presets: readonly Preset[],
  words: Words,
): readonly Choosable[] {
  const period = periodOf(quote.every, words);
  const own = quote.compounding;
  const listed = words.quotings.map(({ quoted, compounding, label, under }) => ({
    value: styleOf({ quoted: quoted as Quoting["quoted"] }, words).is_compounded
      ? `${quoted}:${compounding ?? ""}`
      : quoted,
    label: filled(label, { often: period.often, noun: period.noun }),
    heading: under,
  }));
  if (typeof own === "number" && styleOf(quote, words).is_compounded) {
    const after = listed.findLastIndex((each) => each.value.startsWith(`${quote.quoted}:`));
    const { compounded } = periodOf(own, words);
    const heading = listed[after]?.heading ?? "";
    listed.splice(after + 1, 0, { value: `${quote.quoted}:${own}`, label: compounded, heading });
  }
  const days = quote.year_days === 360 ? "365" : "360";
  return [
    ...presets.map((preset, place) => ({
      value: `preset:${place}`,
      label: preset.name,
      ...(place === 0 ? { under: t("Our habits") } : {}),
    })),
    ...listed.map(({ value, label, heading }, place) => ({
      value,
      label,
      ...(listed[place - 1]?.heading === heading ? {} : { under: heading }),
    })),
    ...(styleOf(quote, words).is_scaled
      ? [{ value: `days:${days}`, label: filled(words.year_of_days, { days }) }]
      : []),
  ];
}

/** How often payments can be made. */
export function everyOptions(every: Every, words: Words): readonly Choosable[] {
  const options = words.periods.map((each) => ({ value: each.name, label: each.often }));
  if (typeof every === "number")
    options.push({ value: String(every), label: periodOf(every, words).often });
  return options;
}

export function everyChosen(value: string): Every {
  return /^\d+$/.test(value) ? Number(value) : value;
}
