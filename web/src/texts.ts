/** Every text of the screen goes through here, so that the catalogue holds it: the English stands in
 *  the code, what it is in the reader's language comes with the page (zephyrant/texts). */
import { createElement, Fragment, type ReactNode } from "react";

/** The texts of a language by the English ones; of one that counts, by its plural forms. `forms`:
 *  which of these a category of plurals takes (Unicode CLDR). */
interface Translated {
  texts: Record<string, string | readonly string[]>;
  forms: Partial<Record<Intl.LDMLPluralRule, number>>;
}

const page = globalThis as { zephyrantTexts?: Translated };
const { texts, forms } = page.zephyrantTexts ?? { texts: {}, forms: { one: 0 } };
const rules = new Intl.PluralRules(document.documentElement.lang);

/** The places that a text leaves open: "{day}" leaves "day". */
type Places<T extends string> = T extends `${string}{${infer Place}}${infer Rest}`
  ? Place | Places<Rest>
  : never;

const PLACE = /\{(\w+)\}/;

function inLanguage(text: string): string {
  const said = texts[text];
  return typeof said === "string" ? said : text;
}

/** Words with their places filled: "end of each {noun}"; what nothing is given for stays. */
export const filled = (words: string, places: Readonly<Record<string, string | number>>): string =>
  words.replace(new RegExp(PLACE, "g"), (place, name: string) => String(places[name] ?? place));

/** A text in the reader's language, with what stands in its places. */
export function t<const T extends string>(
  text: T,
  ...[values]: [Places<T>] extends [never] ? [] : [Record<Places<T>, string | number>]
): string {
  const said = inLanguage(text);
  return values ? filled(said, values) : said;
}

/** A text that counts: in English of one, and of any other number. */
export function tn<const T extends string>(
  one: string,
  many: T,
  number: number,
  values: Record<Places<T>, string | number>,
): string {
  const said = texts[one];
  const form = forms[rules.select(number)] ?? forms.other ?? 1;
  return filled((typeof said === "object" ? said : [one, many])[form] ?? many, values);
}

/** A text in the reader's language in whose places parts of the page stand. */
export function rich<const T extends string>(
  text: T,
  parts: Record<Places<T>, ReactNode>,
): ReactNode {
  const pieces = inLanguage(text)
    .split(PLACE)
    .map((piece, at) => (at % 2 ? parts[piece as Places<T>] : piece));
  return createElement(Fragment, null, ...pieces);
}
