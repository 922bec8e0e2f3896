import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { ask, client, Refused, SIGNED_IN, type CaseOpened, type Content } from "../api/client";
import { draftOf, dropDraft, keepDraft } from "../ui/draft";

const PAUSE = 700;
const RETRY = 4_000;

export type Keeping =
  | { state: "saved"; at: Date }
  | { state: "saving" }
  | { state: "waiting"; why: string }
  | { state: "reading" }
  | { state: "conflict"; kept: CaseOpened; base: Content };

export interface Kept {
  keeping: Keeping;
  /** Takes the version someone else saved for the one to go on from. */
  goOnFrom: (kept: CaseOpened) => void;
  /** Saves at once what waits; gives the version then kept, or null where it could not be. */
  flush: () => Promise<number | null>;
}

export function contentOf(opened: CaseOpened): Content {
  return { statement: opened.statement, note: opened.note, tags: opened.tags };
}

/** What to begin with: what is kept, or what waits in this browser and was not saved yet. */
export function beginning(opened: CaseOpened, username: string): Content {
  const draft = opened.may_edit ? draftOf(username, opened.id) : null;
  return draft ? draft.content : contentOf(opened);
}

function saying(error: unknown): string {
  if (!(error instanceof Refused)) return "offline, will retry";
  if (error.status === 401) return "you are signed out";
  return error.status >= 500 ? "the server is in trouble, will retry" : error.message;
}

/**
 * Keeps the case saved: a moment after the last change, again and again while the server cannot
 * be reached, and at once when the page is left. One save at a time, each from the version the
 * last one gave. Until the server has acknowledged it, every keystroke waits in this browser.
 */
export function useKept(opened: CaseOpened, content: Content, username: string): Kept {
  const [keeping, setKeeping] = useState<Keeping>(() => {
    if (!opened.may_edit) return { state: "reading" };
    const draft = draftOf(username, opened.id);
    if (draft && draft.version !== opened.version)
      return { state: "conflict", kept: opened, base: contentOf(opened) };
    return { state: "saved", at: new Date(opened.changed_at) };
  });
  const version = useRef(opened.version);
  const [first] = useState(() =>
    draftOf(username, opened.id) && opened.may_edit ? contentOf(opened) : content,
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
        const kept = await ask(
          client.PUT("/api/cases/{case_id}", {
            params: { path: { case_id: opened.id } },
            body: { ...sent, version: version.current },
            keepalive: leaving,
          }),
        );
        version.current = kept.version;
        saved.current = sent;
        if (latest.current === sent) dropDraft(username, opened.id);
        else keepDraft(username, opened.id, { content: latest.current, version: kept.version });
        setKeeping({ state: "saved", at: new Date(kept.changed_at) });
      } catch (error) {
        if (error instanceof Refused && error.kept) {
          stuck.current = true;
          setKeeping({ state: "conflict", kept: error.kept, base: saved.current });
        } else {
          setKeeping({ state: "waiting", why: saying(error) });
          setTimeout(again, RETRY);
        }
        return;
      }
      if (latest.current !== sent) again();
    },
    [opened.id, username],
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
      if (opened.may_edit) keepDraft(username, opened.id, { content, version: version.current });
    }
    const timer = setTimeout(() => void save(false), PAUSE);
    return () => clearTimeout(timer);
  }, [content, save, tries, opened.id, opened.may_edit, username]);

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

  const goOnFrom = (kept: CaseOpened) => {
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
