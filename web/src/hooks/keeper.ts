import { Refused } from "../api/client";
import { draftOf, dropDraft, type Draft } from "./draft";
import { same } from "./same";
import { t } from "../texts";

/** What the server keeps: its content is told by `contentOf`. */
export interface Opened {
  id: string;
  version: number;
  changed_at: string;
}

export type Keeping<C, K> =
  | { state: "saved"; at: Date }
  | { state: "saving" }
  | { state: "waiting"; why: string }
  | { state: "reading" }
  | { state: "conflict"; kept: K; base: C };

/** How a save is made: as the page is left, and after a field was left that had been typed in. */
export interface How {
  leaving: boolean;
  left: boolean;
}

/** What is kept, by whom, and how it is sent. */
export interface Keeper<C, K> {
  opened: K;
  username: string;
  mayEdit: boolean;
  contentOf: (opened: K) => C;
  /** Saves content that started from a version. */
  send: (content: C, version: number, how: How) => Promise<K>;
  /** Asks for what is kept now. */
  ask: () => Promise<K>;
}

/** What waits in this browser and is not kept yet; where it is kept all the same nothing waits. */
export function waitingFor<C, K extends Opened>(
  keeper: Omit<Keeper<C, K>, "send" | "ask">,
): Draft<C> | null {
  const { opened, username, mayEdit, contentOf } = keeper;
  const draft = mayEdit ? draftOf<C>(username, opened.id) : null;
  if (draft && same(draft.content, contentOf(opened))) {
    dropDraft(username, opened.id);
    return null;
  }
  return draft;
}

/** What to begin with: what is kept, or what waits in this browser and was not saved yet. */
export function beginning<C, K extends Opened>(keeper: Omit<Keeper<C, K>, "send" | "ask">): C {
  return waitingFor(keeper)?.content ?? keeper.contentOf(keeper.opened);
}

/** Why a save is not made yet. */
export function saying(error: unknown): string {
  if (!(error instanceof Refused)) return t("offline, will retry");
  if (error.status === 401) return t("you are signed out");
  return error.status >= 500 ? t("the server is in trouble, will retry") : error.message;
}
