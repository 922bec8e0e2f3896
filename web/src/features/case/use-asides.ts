import { useCallback, useEffect, useRef, useState } from "react";
import { ask, client, type Asides, type CaseOpened } from "../../api/client";

const PAUSE = 500;

function keep(id: string, asides: Asides): void {
  void ask(
    client.PUT("/api/v1/cases/{case_id}/asides", {
      params: { path: { case_id: id } },
      body: asides,
      keepalive: true,
    }),
  ).catch(() => undefined); // What is asked beside a case is only a convenience.
}

/** What is asked beside a case, kept with it a moment after it changes. */
export function useAsides(opened: CaseOpened) {
  const [asides, setAsides] = useState(opened.asides);
  const waiting = useRef<Asides | null>(null);
  const { id, may_edit: mayEdit } = opened;
  const send = useCallback(() => {
    if (waiting.current) keep(id, waiting.current);
    waiting.current = null;
  }, [id]);
  const change = useCallback(
    (changed: Partial<Asides>) =>
      setAsides((now) => {
        const next = { ...now, ...changed };
        if (mayEdit) waiting.current = next;
        return next;
      }),
    [mayEdit],
  );
  useEffect(() => {
    const timer = setTimeout(send, PAUSE);
    return () => clearTimeout(timer);
  }, [asides, send]);
  useEffect(() => send, [send]);
  return { asides, change, send };
}
