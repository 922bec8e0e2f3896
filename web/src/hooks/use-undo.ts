import { useCallback, useEffect, useRef, useState } from "react";
import { carried } from "./patched";
import { isTyping } from "./typing";

/** A change counts as made once nothing more has followed for so long. */
const PAUSE = 600;
const MOST = 200;

/** A step taken back, or made again: from what to what. */
export interface Step<C> {
  from: C;
  to: C;
  isBack: boolean;
}

/**
 * Ctrl+Z takes the last change back, with Shift it is made again; inside a field being typed in
 * that is the browser's own. `make` makes a step in what stands. Gives the step made last, and how
 * to tell that what stands came from elsewhere: that is nobody's step here.
 */
export function useUndo<C>(content: C, make: (from: C, to: C) => void) {
  const past = useRef<C[]>([]);
  const future = useRef<C[]>([]);
  const at = useRef(content);
  const latest = useRef(content);
  // A step made here arrives as what stands: no change of its own.
  const own = useRef(false);
  const [step, setStep] = useState<Step<C> | null>(null);
  useEffect(() => {
    latest.current = content;
    if (own.current) {
      own.current = false;
      at.current = content;
    }
    if (at.current === content) return;
    const timer = setTimeout(() => {
      past.current = [...past.current, at.current].slice(-MOST);
      future.current = [];
      at.current = content;
      setStep(null);
    }, PAUSE);
    return () => clearTimeout(timer);
  }, [content]);
  const arrived = useCallback((arriving: C) => {
    const stood = at.current;
    // No step taken back or made again later undoes it.
    const carry = (kept: C) => carried(kept, stood, arriving);
    past.current = past.current.map(carry);
    future.current = future.current.map(carry);
    at.current = arriving;
    setStep(null);
  }, []);
  useEffect(() => {
    const go = (back: boolean) => {
      if (latest.current !== at.current) {
        // What has just been typed is a change of its own.
        past.current.push(at.current);
        at.current = latest.current;
        future.current = [];
      }
      const [from, to] = back ? [past.current, future.current] : [future.current, past.current];
      const next = from.pop();
      if (next === undefined) return;
      const stood = at.current;
      to.push(stood);
      own.current = true;
      make(stood, next);
      setStep({ from: stood, to: next, isBack: back });
    };
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      if (isTyping(event.target)) return;
      event.preventDefault();
      go(!event.shiftKey);
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, [make]);
  return { step, arrived };
}
