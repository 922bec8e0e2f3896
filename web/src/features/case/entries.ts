import type { EntryWord, Statement, Words } from "../../api/types";

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
  return clause ? `${title}, clause ${Number(clause[1]) + 1}` : title;
}

/** What is typed at an entry. */
export function textOf(statement: Statement, name: EntryName): string {
  const clause = IN_A_CLAUSE.exec(name);
  const holder: object | undefined = clause ? statement.clauses[Number(clause[1])] : statement;
  const entries = (holder ?? {}) as Record<string, unknown>;
  const text = entries[clause?.[2] ?? name];
  return typeof text === "string" ? text : "";
}

/** The statement with something else typed at an entry. */
export function withText(statement: Statement, name: EntryName, text: string): Statement {
  const clause = IN_A_CLAUSE.exec(name);
  if (!clause) return { ...statement, [name]: text };
  const clauses = statement.clauses.map((each, place) =>
    place === Number(clause[1]) ? { ...each, [clause[2] ?? ""]: text } : each,
  );
  return { ...statement, clauses };
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
