import type { Statement } from "../../api/client";

/** The five figures of a regular loan that can be asked for. */
export const FIGURES = ["principal", "percent", "count", "payment", "balance"] as const;
export type FigureName = (typeof FIGURES)[number];

/** The path of anything that is typed into the statement: `principal`, `clauses.0.figure`. */
export type EntryName = string;

/** What is known of an entry by the last step of its path. */
interface Kind {
  title: string;
  help: string;
  /** Whether it may be the ?. */
  askable: boolean;
  /** Whether it may stay empty. */
  optional?: boolean;
}

const KINDS: Record<string, Kind> = {
  principal: {
    title: "Amount lent",
    help: "What is lent at the start, before anything is repaid. Such as 48,250 or 48k.",
    askable: true,
  },
  percent: {
    title: "Rate",
    help: "The rate as it is quoted; the words after it say how. Such as 6.35 or 6 3/8.",
    askable: true,
  },
  count: {
    title: "Number of payments",
    help: "How many payments there are, or the time they take. Such as 60, 5 years or 5y6m.",
    askable: true,
  },
  payment: {
    title: "Payment",
    help: "What is paid each time, principal and interest together. Such as 938.82.",
    askable: true,
  },
  balance: {
    title: "Balance at the end",
    help: "What is still owed when the last period is over: 0 where the payments repay it all, more where a balloon is left; 30 % is that share of the amount lent.",
    askable: true,
  },
  price: {
    title: "Price",
    help: "What is bought for. The amount lent is the price less what is paid at once. Such as 60,000 or 60k.",
    askable: true,
  },
  down: {
    title: "Down payment",
    help: "What is paid of the price at once: a percent of it, or an amount. Such as 20 or 12,000.",
    askable: true,
  },
  aim_is: {
    title: "Aim",
    help: "What the result is to be. Such as 9,000; of a yearly cost a percent.",
    askable: false,
  },
  over: {
    title: "Charged for",
    help: "The time the quoted interest is charged for at once. Such as 90 days, 6 months or 1 year.",
    askable: false,
  },
  start: {
    title: "Lent on",
    help: "The day the money is lent. Such as 1 Mar 2027 or 2027-03-01.",
    askable: false,
    optional: true,
  },
  first_payment: {
    title: "First payment",
    help: "The day of the first payment. Left empty it is one period after the start, in advance the start itself.",
    askable: false,
    optional: true,
  },
  "clauses.at": {
    title: "Place",
    help: "The number of the payment it stands at, 0 for the start; a loan with dates takes a day. Such as 12 or 15 Mar 2028.",
    askable: false,
  },
  "clauses.begin": {
    title: "From",
    help: "The first payment it holds for, or a day. Such as 13 or 1 Jan 2029.",
    askable: false,
  },
  "clauses.to": {
    title: "To",
    help: "The last payment it holds for, or a day; left empty it holds to the end.",
    askable: false,
    optional: true,
  },
  "clauses.figure": {
    title: "Figure",
    help: "How much: an amount, or a percent where the words say so.",
    askable: true,
  },
  "clauses.over": {
    title: "Charged for",
    help: "The time the quoted interest is charged for at once. Such as 90 days.",
    askable: false,
  },
  "clauses.every": {
    title: "Payments between steps",
    help: "After how many payments the next step comes; left empty, a year of them.",
    askable: false,
    optional: true,
  },
};

function kindOf(name: EntryName): Kind {
  const kind = KINDS[name.replace(/\.\d+\./, ".")];
  if (!kind) throw new Error(`unknown entry ${name}`);
  return kind;
}

export const helpOf = (name: EntryName) => kindOf(name).help;
export const isAskable = (name: EntryName) => kindOf(name).askable;
export const isOptional = (name: EntryName) => kindOf(name).optional ?? false;

/** What an entry is called; of a clause with its place in the list. */
export function titleOf(name: EntryName): string {
  const clause = /^clauses\.(\d+)\./.exec(name);
  const { title } = kindOf(name);
  return clause ? `${title}, clause ${Number(clause[1]) + 1}` : title;
}

/** The name of an entry as the server calls its field in errors. */
export function fieldOf(name: EntryName): string {
  return name === "percent" || name === "over" ? `rate.${name}` : name;
}

/** The name of an entry by the field an error is told at; none where nothing is typed there. */
export function entryOf(field: string): EntryName | undefined {
  const name = field.startsWith("clauses.") ? field : field.replace(/^rate\./, "");
  return KINDS[name.replace(/\.\d+\./, ".")] ? name : undefined;
}

/** What is typed at an entry. */
export function textOf(statement: Statement, name: EntryName): string {
  const clause = /^clauses\.(\d+)\.(\w+)$/.exec(name);
  if (clause) {
    const found = statement.clauses[Number(clause[1])];
    return String(found?.[clause[2] as keyof typeof found] ?? "");
  }
  return statement[name as FigureName] ?? "";
}

/** The statement with something else typed at an entry. */
export function withText(statement: Statement, name: EntryName, text: string): Statement {
  const clause = /^clauses\.(\d+)\.(\w+)$/.exec(name);
  if (!clause) return { ...statement, [name]: text };
  const clauses = statement.clauses.map((each, place) =>
    place === Number(clause[1]) ? { ...each, [clause[2] ?? ""]: text } : each,
  );
  return { ...statement, clauses };
}

/** The figures of the sentence: of a purchase price and down payment stand for the amount lent. */
export function statedFigures(statement: Statement): EntryName[] {
  const [lent, ...others] = FIGURES;
  return [...(statement.is_purchase ? ["price", "down"] : [lent]), ...others];
}

/** The path in the document of what is typed at an entry. */
export function pathOf(statement: Statement, name: EntryName): string {
  if (name === "percent") return "rate.percent";
  if (name === "price") return "purchase.price";
  if (name === "down") return `purchase.down.${statement.down_in_percent ? "percent" : "amount"}`;
  const place = /^clauses\.(\d+)/.exec(name);
  const clause = place && statement.clauses[Number(place[1])];
  if (!clause) return name;
  const kind = {
    rate: ".percent",
    step: clause.in_percent ? ".percent" : ".amount",
    fee: clause.in_percent ? ".percent" : "",
  }[clause.verb as string];
  return `${place[0]}.${clause.verb}${kind ?? ""}`;
}

/** Every entry that may be asked for, in the order of the sentence. */
export function askables(statement: Statement): EntryName[] {
  const clauses = statement.clauses.flatMap((clause, place) =>
    clause.verb === "pay" ? [] : [`clauses.${place}.figure`],
  );
  return [...statedFigures(statement), ...clauses];
}

/** The entry marked with the ?, if there is one. */
export function asked(statement: Statement): EntryName | null {
  return askables(statement).find((name) => textOf(statement, name).trim() === "?") ?? null;
}

/** Which entry an answer's unknown is. */
export function unknownEntry(unknown: string | null | undefined): EntryName | null {
  const clause = /^clauses\.\d+/.exec(unknown ?? "");
  if (clause) return `${clause[0]}.figure`;
  if (unknown?.startsWith("purchase.")) return unknown === "purchase.price" ? "price" : "down";
  return unknown === "rate" ? "percent" : (unknown ?? null);
}
