import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { Refused, SIGNED_IN } from "../api/client";
import { draftOf, dropDraft, keepDraft } from "./draft";

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

/** What to begin with: what is kept, or what waits in this browser and was not saved yet. */
export function beginning<C, K extends Opened>({
  opened,
  username,
  mayEdit,
  contentOf,
}: Omit<Asked<C, K>, "content" | "send">): C {
  const draft = mayEdit ? draftOf<C>(username, opened.id) : null;
  return draft ? draft.content : contentOf(opened);
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
    const draft = draftOf<C>(username, opened.id);
    if (draft && draft.version !== opened.version)
      return { state: "conflict", kept: opened, base: contentOf(opened) };
    return { state: "saved", at: new Date(opened.changed_at) };
  });
  const version = useRef(opened.version);
  const [first] = useState(() =>
    draftOf(username, opened.id) && mayEdit ? contentOf(opened) : content,
  );
  const saved = useRef(first);
  const latest = useRef(content);
  const busy = useRef<Promise<void> | null>(null);
  const stuck = useRef(keeping.state === "conflict" || keeping.state === "reading");
  const [tries, again] = useReducer((count: number) => count + 1, 0);

  const saveOnce = useCallback(
    async (leaving: boolean) => {
      const sent = latest.current;
      setKeeping({ state: "saving" });
      try {
        const kept = await send(sent, version.current, leaving);
        version.current = kept.version;
        saved.current = sent;
        if (latest.current === sent) dropDraft(username, opened.id);
        else keepDraft(username, opened.id, { content: latest.current, version: kept.version });
        setKeeping({ state: "saved", at: new Date(kept.changed_at) });
      } catch (error) {
        if (error instanceof Refused && error.kept) {
          stuck.current = true;
          setKeeping({ state: "conflict", kept: error.kept as K, base: saved.current });
        } else {
          setKeeping({ state: "waiting", why: saying(error) });
          setTimeout(again, RETRY);
        }
        return;
      }
      if (latest.current !== sent) again();
    },
    [opened.id, username, send],
  );

  const save = useCallback(
    async (leaving: boolean) => {
      if (busy.current || stuck.current || latest.current === saved.current) return;
      busy.current = saveOnce(leaving);
      await busy.current;
      busy.current = null;
    },
    [saveOnce],
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
