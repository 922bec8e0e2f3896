import type { MarksWord } from "../api/client";

/** A plain decimal string ("48250.00") in the reader's marks ("48,250.00"). Layout only. */
export function inMarks(plain: string, marks: MarksWord): string {
  const negative = plain.startsWith("-");
  const [whole = "", part] = (negative ? plain.slice(1) : plain).split(".");
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, marks.group);
  return (negative ? "−" : "") + grouped + (part ? marks.decimal + part : "");
}

/** A decimal string rounded for showing, ties away from zero, where the whole stands elsewhere. */
export function rounded(plain: string, decimals: number): string {
  const negative = plain.startsWith("-");
  const [whole = "0", part = ""] = (negative ? plain.slice(1) : plain).split(".");
  if (part.length <= decimals) return plain;
  const up = part.charAt(decimals) >= "5" ? 1n : 0n;
  const units = (BigInt(whole + part.slice(0, decimals)) + up)
    .toString()
    .padStart(decimals + 1, "0");
  const cut = units.length - decimals;
  const shown = decimals ? `${units.slice(0, cut)}.${units.slice(cut)}` : units;
  return negative && /[1-9]/.test(shown) ? `-${shown}` : shown;
}

/** A decimal string without the zeros at its end. */
export function trimmed(plain: string): string {
  return plain.includes(".") ? plain.replace(/\.?0+$/, "") : plain;
}
