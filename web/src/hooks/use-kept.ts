import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { Refused, SIGNED_IN } from "../api/client";
import { draftOf, dropDraft, keepDraft, type Draft } from "./draft";
import { same } from "./same";

const PAUSE = 700;
const RETRY = 4_000;

/** What the server keeps: its content is `C`. */
interface Opened {
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

export interface Kept<C, K> {
  keeping: Keeping<C, K>;
  /** Takes the version someone else saved for the one to go on from. */
  goOnFrom: (kept: K) => void;
  /** Saves at once what waits; gives the version then kept, or null where it could not be. */
  flush: () => Promise<number | null>;
}

interface Asked<C, K> {
  opened: K;
  content: C;
  username: string;
  mayEdit: boolean;
  contentOf: (opened: K) => C;
  /** Saves content that started from a version; stable between renders. */
  send: (content: C, version: number, leaving: boolean) => Promise<K>;
}

/** Saves on their way, by what they are of: they outlive the page they were made on. */
const onTheWay = new Map<string, Promise<void>>();

/** Until nothing of it is on its way to the server any more. */
export async function whenSaved(id: string): Promise<void> {
  // A page that is being left begins its last save only after who waits for it has asked.
  await Promise.resolve();
  await onTheWay.get(id);
}

/** What waits in this browser and is not kept yet; where it is kept all the same nothing waits. */
function waitingFor<C, K extends Opened>({
  opened,
  username,
  mayEdit,
  contentOf,
}: Omit<Asked<C, K>, "content" | "send">): Draft<C> | null {
  const draft = mayEdit ? draftOf<C>(username, opened.id) : null;
  if (draft && same(draft.content, contentOf(opened))) {
    dropDraft(username, opened.id);
    return null;
  }
  return draft;
}

/** What to begin with: what is kept, or what waits in this browser and was not saved yet. */
export function beginning<C, K extends Opened>(kept: Omit<Asked<C, K>, "content" | "send">): C {
  return waitingFor(kept)?.content ?? kept.contentOf(kept.opened);
}

function saying(error: unknown): string {
  if (!(error instanceof Refused)) return "offline, will retry";
  if (error.status === 401) return "you are signed out";
  return error.status >= 500 ? "the server is in trouble, will retry" : error.message;
}

/**
 * Keeps what stands on a page saved: a moment after the last change, again and again while the
 * server cannot be reached, and at once when the page is left. One save at a time, each from the
 * version the last one gave. Until the server has acknowledged it, every keystroke waits in this
 * browser.
 */
export function useKept<C, K extends Opened>({
  opened,
  content,
  username,
  mayEdit,
  contentOf,
  send,
}: Asked<C, K>): Kept<C, K> {
  const [keeping, setKeeping] = useState<Keeping<C, K>>(() => {
    if (!mayEdit) return { state: "reading" };
    const draft = waitingFor({ opened, username, mayEdit, contentOf });
    if (draft && draft.version !== opened.version)
      return { state: "conflict", kept: opened, base: contentOf(opened) };
    return { state: "saved", at: new Date(opened.changed_at) };
  });
  const version = useRef(opened.version);
  const [first] = useState(() =>
    draftOf(username, opened.id) && mayEdit ? contentOf(opened) : content,
  );
  const saved = useRef(first);
  const [begun] = useState(content);
  const latest = useRef(content);
  const busy = useRef<Promise<void> | null>(null);
  const stuck = useRef(keeping.state === "conflict" || keeping.state === "reading");
  const [tries, again] = useReducer((count: number) => count + 1, 0);

  const gone = useRef(false);

  /** Whether it was kept. */
  const saveOnce = useCallback(
    async (leaving: boolean): Promise<boolean> => {
      const sent = latest.current;
      const isKept = (kept: K) => {
        version.current = kept.version;
        saved.current = sent;
        if (latest.current === sent) dropDraft(username, opened.id);
        else keepDraft(username, opened.id, { content: latest.current, version: kept.version });
        setKeeping({ state: "saved", at: new Date(kept.changed_at) });
        if (latest.current !== sent) again();
        return true;
      };
      setKeeping({ state: "saving" });
      try {
        return isKept(await send(sent, version.current, leaving));
      } catch (error) {
        if (error instanceof Refused && error.kept) {
          // Saved from another window, or by a save whose answer was lost: no conflict.
          const kept = error.kept as K;
          if (same(contentOf(kept), sent)) return isKept(kept);
          if (same(contentOf(kept), begun)) {
            // Another window saved what this one began with: what has changed here stands on it.
            version.current = kept.version;
            again();
            return false;
          }
          stuck.current = true;
          setKeeping({ state: "conflict", kept: error.kept as K, base: saved.current });
        } else {
          setKeeping({ state: "waiting", why: saying(error) });
          setTimeout(again, RETRY);
        }
        return false;
      }
    },
    [opened.id, username, send, contentOf, begun],
  );

  const save = useCallback(
    async (leaving: boolean) => {
      if (busy.current || stuck.current || latest.current === saved.current) return;
      const all = async () => {
        let kept = await saveOnce(leaving);
        // Once the page has been left nothing else comes to save what was typed meanwhile.
        while (kept && gone.current && latest.current !== saved.current)
          kept = await saveOnce(true);
      };
      busy.current = all();
      onTheWay.set(opened.id, busy.current);
      await busy.current;
      if (onTheWay.get(opened.id) === busy.current) onTheWay.delete(opened.id);
      busy.current = null;
    },
    [saveOnce, opened.id],
  );

  useEffect(() => {
    if (latest.current !== content) {
      latest.current = content;
      if (mayEdit) keepDraft(username, opened.id, { content, version: version.current });
    }
    const timer = setTimeout(() => void save(false), PAUSE);
    return () => clearTimeout(timer);
  }, [content, save, tries, opened.id, mayEdit, username]);

  useEffect(() => {
    gone.current = false;
    const leave = () => {
      if (document.visibilityState === "hidden") void save(true);
    };
    const back = () => void save(false);
    document.addEventListener("visibilitychange", leave);
    addEventListener("online", back);
    addEventListener(SIGNED_IN, back);
    return () => {
      document.removeEventListener("visibilitychange", leave);
      removeEventListener("online", back);
      removeEventListener(SIGNED_IN, back);
      gone.current = true;
      void save(true);
    };
  }, [save]);

  const goOnFrom = (kept: K) => {
    version.current = kept.version;
    stuck.current = false;
    keepDraft(username, opened.id, { content: latest.current, version: kept.version });
    again();
  };
  const flush = async () => {
    await busy.current;
    await save(false);
    return latest.current === saved.current ? version.current : null;
  };
  return { keeping, goOnFrom, flush };
}
