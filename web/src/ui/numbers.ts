import type { MarksWord } from "../api/types";

/** A plain decimal string ("48250.00") in the reader's marks ("48,250.00"). Layout only. */
export function inMarks(plain: string, marks: MarksWord): string {
  const negative = plain.startsWith("-");
  const [whole = "", part] = (negative ? plain.slice(1) : plain).split(".");
  const places = marks.pairs ? /\B(?=(\d\d)*\d{3}$)/g : /\B(?=(\d{3})+$)/g;
  const grouped = whole.replace(places, marks.group);
  return (negative ? "−" : "") + grouped + (part ? marks.decimal + part : "");
}

/** "1 row", "1,000 rows". */
export function counted(number: number, noun: string, marks: MarksWord): string {
  return `${inMarks(String(number), marks)} ${noun}${number === 1 ? "" : "s"}`;
}
