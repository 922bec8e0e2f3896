import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { ask, client, Refused, type CaseOpened, type Statement } from "../api/client";

const PAUSE = 700;
const RETRY = 4_000;

export type Keeping =
  | { state: "saved"; at: Date }
  | { state: "saving" }
  | { state: "waiting"; why: string }
  | { state: "conflict"; kept: CaseOpened };

interface Kept {
  keeping: Keeping;
  /** Takes the version someone else saved for the one to go on from. */
  goOnFrom: (kept: CaseOpened) => void;
}

/**
 * Keeps the case saved: a moment after the last change, again and again while the server cannot
 * be reached, and at once when the page is left. One save at a time, each from the version the
 * last one gave.
 */
export function useKept(opened: CaseOpened, statement: Statement): Kept {
  const [keeping, setKeeping] = useState<Keeping>({
    state: "saved",
    at: new Date(opened.changed_at),
  });
  const version = useRef(opened.version);
  const saved = useRef(statement);
  const latest = useRef(statement);
  const busy = useRef(false);
  const stuck = useRef(false);
  const [tries, again] = useReducer((count: number) => count + 1, 0);

  const save = useCallback(
    async (leaving: boolean) => {
      if (busy.current || stuck.current || latest.current === saved.current) return;
      busy.current = true;
      const sent = latest.current;
      setKeeping({ state: "saving" });
      try {
        const kept = await ask(
          client.PUT("/api/cases/{case_id}", {
            params: { path: { case_id: opened.id } },
            body: { statement: sent, version: version.current },
            keepalive: leaving,
          }),
        );
        version.current = kept.version;
        saved.current = sent;
        setKeeping({ state: "saved", at: new Date(kept.changed_at) });
      } catch (error) {
        if (error instanceof Refused && error.kept) {
          stuck.current = true;
          setKeeping({ state: "conflict", kept: error.kept });
        } else {
          const why = error instanceof Refused ? error.message : "the server cannot be reached";
          setKeeping({ state: "waiting", why });
          setTimeout(again, RETRY);
        }
      } finally {
        busy.current = false;
      }
      if (latest.current !== sent) again();
    },
    [opened.id],
  );

  useEffect(() => {
    latest.current = statement;
    const timer = setTimeout(() => void save(false), PAUSE);
    return () => clearTimeout(timer);
  }, [statement, save, tries]);

  useEffect(() => {
    const leave = () => {
      if (document.visibilityState === "hidden") void save(true);
    };
    document.addEventListener("visibilitychange", leave);
    return () => {
      document.removeEventListener("visibilitychange", leave);
      void save(true);
    };
  }, [save]);

  const goOnFrom = (kept: CaseOpened) => {
    version.current = kept.version;
    stuck.current = false;
    again();
  };
  return { keeping, goOnFrom };
}
