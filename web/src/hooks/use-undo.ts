import { useCallback, useEffect, useRef, useState } from "react";

/** A change counts as made once nothing more has followed for so long. */
const PAUSE = 600;
const MOST = 200;

function inField(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest("input, textarea, select") !== null;
}

/**
 * Ctrl+Z takes the last change back, with Shift it is made again; inside a field being typed in
 * that is the browser's own. Gives how many changes stand taken back.
 */
export function useUndo<C>(content: C, put: (content: C) => void): number {
  const past = useRef<C[]>([]);
  const future = useRef<C[]>([]);
  const at = useRef(content);
  const latest = useRef(content);
  const [takenBack, setTakenBack] = useState(0);
  useEffect(() => {
    latest.current = content;
    if (at.current === content) return;
    const timer = setTimeout(() => {
      past.current = [...past.current, at.current].slice(-MOST);
      future.current = [];
      at.current = content;
      setTakenBack(0);
    }, PAUSE);
    return () => clearTimeout(timer);
  }, [content]);
  const go = useCallback(
    (from: C[], to: C[]) => {
      const next = from.pop();
      if (next === undefined) return;
      to.push(at.current);
      at.current = next;
      put(next);
      setTakenBack(future.current.length);
    },
    [put],
  );
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      if (inField(event.target)) return;
      event.preventDefault();
      if (latest.current !== at.current) {
        // What has just been typed is a change of its own.
        past.current.push(at.current);
        at.current = latest.current;
        future.current = [];
      }
      if (event.shiftKey) go(future.current, past.current);
      else go(past.current, future.current);
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, [go]);
  return takenBack;
}
