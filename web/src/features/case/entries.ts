import type { EntryWord, Statement, Words } from "../../api/types";
import { t } from "../../texts";

/** The name of anything that is typed into the statement: `principal`, `clauses.0.figure`. */
export type EntryName = string;

const IN_A_CLAUSE = /^clauses\.(\d+)\.(\w+)$/;

/** What is known of an entry; none where nothing is typed there. */
export function entryWord(name: EntryName, words: Words): EntryWord | undefined {
  return words.entries[name.replace(IN_A_CLAUSE, "clauses.$2")];
}

/** What an entry is called; of a clause with its place in the list. */
export function titleOf(name: EntryName, words: Words): string {
  const clause = IN_A_CLAUSE.exec(name);
  const title = entryWord(name, words)?.title ?? "";
  return clause ? t("{title}, clause {number}", { title, number: Number(clause[1]) + 1 }) : title;
}

type Held = Record<string, unknown>;

/** What is typed at an entry: its name says where it stands in the statement. */
export function textOf(statement: Statement, name: EntryName): string {
  let held: unknown = statement;
  for (const step of name.split(".")) held = (held as Held | null | undefined)?.[step];
  return typeof held === "string" ? held : "";
}

function put(held: unknown, [step = "", ...others]: string[], text: string): unknown {
  if (Array.isArray(held))
    return (held as unknown[]).map((each, place) =>
      place === Number(step) ? put(each, others, text) : each,
    );
  const own = (held ?? {}) as Held;
  return { ...own, [step]: others.length ? put(own[step], others, text) : text };
}

/** The statement with something else typed at an entry. */
export function withText(statement: Statement, name: EntryName, text: string): Statement {
  return put(statement, name.split("."), text) as Statement;
}

/** The entry marked with the ?, if there is one. */
export function asked(statement: Statement, words: Words): EntryName | null {
  const names = [
    ...Object.keys(words.entries).filter((name) => !name.startsWith("clauses.")),
    ...statement.clauses.map((_, place) => `clauses.${place}.figure`),
  ];
  return (
    names.find(
      (name) => entryWord(name, words)?.may_be_asked && textOf(statement, name).trim() === "?",
    ) ?? null
  );
}

/** Whether nothing of a loan is stated yet. */
export function isBlank(statement: Statement): boolean {
  const { principal, price, percent, count, clauses } = statement;
  return [principal, price, percent, count].every((text) => !text.trim()) && clauses.length === 0;
}
