import type { PeriodWord, Preset, Quoting, Statement } from "../api/client";
import type { Option } from "./choice";

type Compounding = Quoting["compounding"];
type Every = Statement["every"];

function periodOf(every: string | number, periods: readonly PeriodWord[]): PeriodWord {
  const found = periods.find((each) => each.name === every || each.a_year === every);
  return (
    found ?? {
      name: String(every),
      a_year: Number(every),
      often: `${every}-times-yearly`,
      noun: `1/${every} year`,
    }
  );
}

/** The period between payments, in words. */
export function paymentPeriod(
  { every }: { every: Every },
  periods: readonly PeriodWord[],
): PeriodWord {
  return periodOf(every, periods);
}

function compoundingWords(compounding: Compounding, periods: readonly PeriodWord[]): string {
  if (compounding === "continuous") return "compounded continuously";
  if (compounding === null || compounding === undefined) return "compounded as it is paid";
  return `compounded ${periodOf(compounding, periods).often}`;
}

/** The part of a statement, or of any quote, that says how its percent is quoted. */
export type Quoted = Pick<Quoting, "quoted" | "compounding" | "over" | "year_days"> & {
  every: Every;
};

/** Whether the percent is charged for a stated time. */
export function isTimed({ quoted }: Pick<Quoting, "quoted">): boolean {
  return quoted === "simple" || quoted === "discount";
}

function isScaled({ quoted }: Pick<Quoting, "quoted">): boolean {
  return quoted === "nominal" || quoted === "continuous" || isTimed({ quoted });
}

/** How the rate is quoted, in the words of the sentence; the time it is charged for follows them. */
export function quoteWords(quote: Quoted, periods: readonly PeriodWord[]): string {
  const days = quote.year_days === 360 && isScaled(quote) ? ", year of 360 days" : "";
  switch (quote.quoted) {
    case "effective":
      return "effective a year";
    case "periodic":
      return `for each ${periodOf(quote.every, periods).noun}`;
    case "continuous":
      return `a year, compounded continuously${days}`;
    case "flat":
      return "a year, flat (add-on)";
    case "simple":
      return `a year, simple interest${days}, over`;
    case "discount":
      return `a year, discount in advance${days}, over`;
    case "nominal": {
      const compounding = quote.compounding ?? quote.every;
      return `nominal a year, ${compoundingWords(compounding, periods)}${days}`;
    }
  }
}

export function quoteValue({ quoted, compounding }: Quoted): string {
  return quoted === "nominal" ? `nominal:${compounding ?? ""}` : quoted;
}

/** What choosing an option of `quoteOptions` makes of a quote. */
export function quoteChosen(value: string, quote: Quoted, presets: readonly Preset[]): Quoting {
  const [kind = "nominal", part = ""] = value.split(":");
  const { quoted, compounding, over, year_days } = quote;
  const now: Quoting = {
    quoted,
    compounding: compounding ?? null,
    over: over ?? "",
    year_days: year_days ?? 365,
  };
  if (kind === "preset") return presets[Number(part)]?.quoting ?? now;
  if (kind === "days") return { ...now, year_days: part === "360" ? 360 : 365 };
  const chosen = { ...now, quoted: kind as Quoting["quoted"], compounding: null };
  if (isTimed(chosen)) return { ...chosen, over: now.over || "1 year" };
  const named = (part || null) as Exclude<Compounding, undefined>;
  return { ...chosen, compounding: /^\d+$/.test(part) ? Number(part) : named };
}

/** Every style a rate can be quoted in, the analyst's own habits first. */
export function quoteOptions(
  quote: Quoted,
  periods: readonly PeriodWord[],
  presets: readonly Preset[],
): readonly Option[] {
  const paid = periodOf(quote.every, periods).often;
  const own = quote.compounding;
  const nominal: Option[] = [
    { value: "nominal:", label: `compounded as it is paid, ${paid}`, under: "Nominal a year" },
    ...periods.map((each) => ({
      value: `nominal:${each.name}`,
      label: `compounded ${each.often}`,
    })),
  ];
  if (typeof own === "number")
    nominal.push({ value: `nominal:${own}`, label: compoundingWords(own, periods) });
  const days = quote.year_days === 360 ? "365" : "360";
  return [
    ...presets.map((preset, place) => ({
      value: `preset:${place}`,
      label: preset.name,
      ...(place === 0 ? { under: "Our habits" } : {}),
    })),
    ...nominal,
    { value: "continuous", label: "compounded continuously" },
    { value: "effective", label: "effective a year", under: "Otherwise" },
    { value: "periodic", label: `for each ${periodOf(quote.every, periods).noun}` },
    { value: "flat", label: "flat (add-on), on the amount lent throughout" },
    { value: "simple", label: "simple interest over a time" },
    { value: "discount", label: "discount: interest taken in advance over a time" },
    ...(isScaled(quote)
      ? [{ value: `days:${days}`, label: `meant for a year of ${days} days` }]
      : []),
  ];
}

export function everyOptions(
  { every }: { every: Every },
  periods: readonly PeriodWord[],
): readonly Option[] {
  const options = periods.map((each) => ({ value: each.name, label: each.often }));
  if (typeof every === "number")
    options.push({ value: String(every), label: periodOf(every, periods).often });
  return options;
}

export function everyChosen(value: string): Every {
  return /^\d+$/.test(value) ? Number(value) : value;
}
