import type { Content } from "../api/client";

/** What waits in this browser to be saved, keyed to the analyst and the case. */
export interface Draft {
  content: Content;
  version: number;
}

const PREFIX = "zephyrant-draft:";

function key(username: string, caseId: string): string {
  return `${PREFIX}${username}:${caseId}`;
}

export function keepDraft(username: string, caseId: string, draft: Draft): void {
  try {
    localStorage.setItem(key(username, caseId), JSON.stringify(draft));
  } catch {
    // A full or forbidden storage: the server still gets every save.
  }
}

export function draftOf(username: string, caseId: string): Draft | null {
  const kept = localStorage.getItem(key(username, caseId));
  if (!kept) return null;
  try {
    return JSON.parse(kept) as Draft;
  } catch {
    return null;
  }
}

export function dropDraft(username: string, caseId: string): void {
  localStorage.removeItem(key(username, caseId));
}

/** The cases of which something waits here for this analyst. */
export function waiting(username: string): string[] {
  const start = `${PREFIX}${username}:`;
  return Object.keys(localStorage)
    .filter((name) => name.startsWith(start))
    .map((name) => name.slice(start.length));
}
