import { useCallback, useEffect, useRef, useState } from "react";
import { saveAsides } from "../../api/beside";
import type { Asides, CaseOpened } from "../../api/types";

const PAUSE = 500;

/** What is asked beside a case, kept with it a moment after it changes. */
export function useAsides(opened: CaseOpened) {
  const [asides, setAsides] = useState(opened.asides);
  const waiting = useRef<Asides | null>(null);
  const { id, may_edit: mayEdit } = opened;
  const send = useCallback(() => {
    // What is asked beside a case is only a convenience: where it cannot be kept nothing is lost.
    if (waiting.current) void saveAsides(id, waiting.current).catch(() => undefined);
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
