import { same } from "./same";

/** What waits in this browser to be saved, keyed to the analyst and what it belongs to. */
export interface Draft<C> {
  content: C;
  version: number;
}

const PREFIX = "zephyrant-draft:";

function key(username: string, id: string): string {
  return `${PREFIX}${username}:${id}`;
}

export function keepDraft<C>(username: string, id: string, draft: Draft<C>): void {
  try {
    localStorage.setItem(key(username, id), JSON.stringify(draft));
  } catch {
    // A full or forbidden storage: the server still gets every save.
  }
}

export function draftOf<C>(username: string, id: string): Draft<C> | null {
  const kept = localStorage.getItem(key(username, id));
  if (!kept) return null;
  try {
    return JSON.parse(kept) as Draft<C>;
  } catch {
    return null;
  }
}

/** Nothing waits any more; of `only` that, so that what another window keeps there stays. */
export function dropDraft(username: string, id: string, only?: unknown): void {
  if (only !== undefined && !same(draftOf(username, id)?.content, only)) return;
  localStorage.removeItem(key(username, id));
}

/** All of which something waits here for this analyst. */
export function waiting(username: string): string[] {
  const start = `${PREFIX}${username}:`;
  return Object.keys(localStorage)
    .filter((name) => name.startsWith(start))
    .map((name) => name.slice(start.length));
}
