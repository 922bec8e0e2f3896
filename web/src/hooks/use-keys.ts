import { useLayoutEffect, useState } from "react";
import { isTyping } from "./typing";

export interface Key {
  key: string;
  run: () => void;
}

const KEY = "zephyrant-single-keys";
const OFF = "off";

/** In a list, or at the button of one that is about to open. */
const inMenu = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  target.closest("[role=menu], [aria-haspopup][aria-expanded=true]") !== null;

/** Single letters that work wherever nothing is being typed. They can be turned off. */
export function useKeys(keys: readonly Key[]): void {
  // What is seen can be pressed: they are there with what they belong to, not a moment later.
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.altKey || event.metaKey || isTyping(event.target)) return;
      if (inMenu(event.target)) return;
      if (localStorage.getItem(KEY) === OFF && event.key !== "Escape") return;
      const found = keys.find((each) => each.key === event.key);
      if (!found) return;
      event.preventDefault();
      found.run();
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, [keys]);
}

/** Whether single letters are on, and the way to turn them off; kept in this browser. */
export function useSingleKeys(): [boolean, (on: boolean) => void] {
  const [on, setOn] = useState(() => localStorage.getItem(KEY) !== OFF);
  const choose = (chosen: boolean) => {
    localStorage.setItem(KEY, chosen ? "on" : OFF);
    setOn(chosen);
  };
  return [on, choose];
}
