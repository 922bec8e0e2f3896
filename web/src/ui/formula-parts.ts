/** What a formula is made of: a number or a letter, words, a sign between two, something in
 *  brackets, a function of something, a power, a fraction. */
export type Part =
  | { kind: "number" | "letter" | "words" | "sign"; text: string }
  | { kind: "brackets"; parts: readonly Part[] }
  | { kind: "function"; name: string; parts: readonly Part[] }
  | { kind: "power"; base: Part; parts: readonly Part[] }
  | { kind: "fraction"; over: Part; under: Part };

const TOKEN =
  /(\d[\d.,’'\u00a0\u202f ]*\d|\d)( ?%)?|(ln|exp)(?=\()|([A-Za-z][a-zₖ]+(?: [A-Za-z][a-z]+)*)|([A-Za-z][ₖ]?)|([ⁿ])|([=+−×·/^(),:;–])|(\S)/gu;

interface Token {
  kind: "number" | "letter" | "words" | "sign";
  text: string;
  /** Whether nothing stands between it and what is before it. */
  joined: boolean;
}

function tokens(formula: string): Token[] {
  const found: Token[] = [];
  let end = 0;
  for (const match of formula.matchAll(TOKEN)) {
    const [text, number, , name, words, letter] = match;
    const joined = match.index === end && end > 0;
    end = match.index + text.length;
    const kind = number ? "number" : words ? "words" : (name ?? letter) ? "letter" : "sign";
    found.push({ kind, text, joined });
  }
  return found;
}

/** Reads a formula as it is written in a line: "(1 + p/m)^(m/f) − 1". */
export function partsOf(formula: string): readonly Part[] {
  const read = tokens(formula);
  let place = 0;
  const stripped = (part: Part) => (part.kind === "brackets" ? part.parts : [part]);

  /** One thing, with the brackets of what it is a function of, and its power. */
  function factor(): Part | undefined {
    const token = read[place];
    if (!token) return undefined;
    place += 1;
    if (token.text === "(") return raised({ kind: "brackets", parts: row() });
    const next = read[place];
    if (token.kind !== "letter" || next?.text !== "(" || !next.joined)
      return raised({ kind: token.kind, text: token.text });
    place += 1;
    return raised({ kind: "function", name: token.text, parts: row() });
  }

  function raised(base: Part): Part {
    const sign = read[place]?.text;
    if (sign === "ⁿ") {
      place += 1;
      return { kind: "power", base, parts: [{ kind: "letter", text: "n" }] };
    }
    if (sign !== "^") return base;
    place += 1;
    const minus = read[place]?.text === "−";
    if (minus) place += 1;
    const power = factor();
    const parts = power ? stripped(power) : [];
    return { kind: "power", base, parts: minus ? [{ kind: "sign", text: "−" }, ...parts] : parts };
  }

  /** What stands in a row, up to the bracket that closes it. */
  function row(): Part[] {
    const parts: Part[] = [];
    for (;;) {
      const token = read[place];
      if (!token) return parts;
      if (token.text === ")") {
        place += 1;
        return parts;
      }
      if (token.text === "/" && parts.length) {
        place += 1;
        const over = parts.pop();
        const under = factor();
        if (over && under) parts.push({ kind: "fraction", over, under });
        continue;
      }
      const part = factor();
      if (part) parts.push(part);
    }
  }
  return row();
}
