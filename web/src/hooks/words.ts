/** Words with their places filled: "end of each {noun}". */
export function filled(words: string, places: Record<string, string>): string {
  return words.replace(/\{(\w+)\}/g, (place, name: string) => places[name] ?? place);
}

/** A word at the beginning of a line. */
export function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}
