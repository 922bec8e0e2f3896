import type { SpeakerWord, Statement, Words } from "../api/types";

/** Who speaks, and the words that follow. */
export function speakerOf(we: Statement["we"], words: Words): SpeakerWord {
  const found = words.choices.we.find(({ name }) => name === we) ?? words.choices.we[0];
  if (!found) throw new Error("nobody speaks");
  return found;
}

/** Words that begin a sentence, within one. */
export function within(words: string): string {
  return words.charAt(0).toLowerCase() + words.slice(1);
}

/** A word at the beginning of a line. */
export function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}
