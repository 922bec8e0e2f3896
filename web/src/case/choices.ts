import type { PeriodWord, Statement } from "../api/client";
import type { Option } from "../ui/choice";

type Compounding = Statement["compounding"];

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
export function paymentPeriod(statement: Statement, periods: readonly PeriodWord[]): PeriodWord {
  return periodOf(statement.every, periods);
}

function compoundingWords(compounding: Compounding, periods: readonly PeriodWord[]): string {
  if (compounding === "continuous") return "compounded continuously";
  if (compounding === null || compounding === undefined) return "compounded as it is paid";
  return `compounded ${periodOf(compounding, periods).often}`;
}

/** How the rate is quoted, in the words of the sentence. */
export function quoteWords(statement: Statement, periods: readonly PeriodWord[]): string {
  switch (statement.quoted) {
    case "effective":
      return "effective a year";
    case "periodic":
      return `for each ${paymentPeriod(statement, periods).noun}`;
    case "continuous":
      return "a year, compounded continuously";
    case "nominal": {
      const compounding = statement.compounding ?? statement.every;
      return `nominal a year, ${compoundingWords(compounding, periods)}`;
    }
  }
}

export function quoteValue(statement: Statement): string {
  if (statement.quoted !== "nominal") return statement.quoted;
  return `nominal:${statement.compounding ?? ""}`;
}

/** What choosing an option of `quoteOptions` changes in the statement. */
export function quoteChosen(value: string): Pick<Statement, "quoted" | "compounding"> {
  const [quoted, compounding] = value.split(":");
  return {
    quoted: quoted as Statement["quoted"],
    compounding: compounding
      ? /^\d+$/.test(compounding)
        ? Number(compounding)
        : (compounding as NonNullable<Compounding>)
      : null,
  };
}

export function quoteOptions(
  statement: Statement,
  periods: readonly PeriodWord[],
): readonly Option[] {
  const paid = paymentPeriod(statement, periods).often;
  const own = statement.compounding;
  const nominal: Option[] = [
    {
      value: "nominal:",
      label: `compounded as it is paid, ${paid}`,
      under: "Nominal a year",
    },
    ...periods.map((each) => ({
      value: `nominal:${each.name}`,
      label: `compounded ${each.often}`,
    })),
  ];
  if (typeof own === "number")
    nominal.push({ value: `nominal:${own}`, label: compoundingWords(own, periods) });
  return [
    ...nominal,
    { value: "continuous", label: "compounded continuously" },
    { value: "effective", label: "effective a year", under: "Otherwise" },
    { value: "periodic", label: `for each ${paymentPeriod(statement, periods).noun}` },
  ];
}

export function everyOptions(
  statement: Statement,
  periods: readonly PeriodWord[],
): readonly Option[] {
  const options = periods.map((each) => ({ value: each.name, label: each.often }));
  if (typeof statement.every === "number")
    options.push({
      value: String(statement.every),
      label: paymentPeriod(statement, periods).often,
    });
  return options;
}

export function everyChosen(value: string): Statement["every"] {
  return /^\d+$/.test(value) ? Number(value) : (value as Statement["every"]);
}
