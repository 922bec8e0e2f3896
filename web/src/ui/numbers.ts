import type { MarksWord } from "../api/types";
import { tn } from "../texts";

/** A plain decimal string ("48250.00") in the reader's marks ("48,250.00"). Layout only. */
export function inMarks(plain: string, marks: MarksWord): string {
  const negative = plain.startsWith("-");
  const [whole = "", part] = (negative ? plain.slice(1) : plain).split(".");
  const places = marks.pairs ? /\B(?=(\d\d)*\d{3}$)/g : /\B(?=(\d{3})+$)/g;
  const grouped = whole.replace(places, marks.group);
  return (negative ? "−" : "") + grouped + (part ? marks.decimal + part : "");
}

const count = (number: number, marks: MarksWord) => ({ count: inMarks(String(number), marks) });

/** "1 row", "1,000 rows". */
export const countedRows = (number: number, marks: MarksWord) =>
  tn("{count} row", "{count} rows", number, count(number, marks));

/** "1 case", "1,000 cases". */
export const countedCases = (number: number, marks: MarksWord) =>
  tn("{count} case", "{count} cases", number, count(number, marks));

/** "1 quote", "1,000 quotes". */
export const countedQuotes = (number: number, marks: MarksWord) =>
  tn("{count} quote", "{count} quotes", number, count(number, marks));
