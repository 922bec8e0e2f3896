import { useSyncExternalStore } from "react";

/** What one rem is until it is measured, in pixels. */
const USUAL = 16;

let rem = USUAL;
let probe: HTMLElement | undefined;

/** Measures one rem by an element of that width, and tells when it changes. */
function watch(changed: () => void): () => void {
  if (!probe) {
    probe = document.createElement("div");
    Object.assign(probe.style, { position: "absolute", width: "1rem", visibility: "hidden" });
    document.body.append(probe);
  }
  const look = () => {
    const now = probe?.getBoundingClientRect().width || USUAL;
    if (now === rem) return;
    rem = now;
    changed();
  };
  const observer = new ResizeObserver(look);
  observer.observe(probe);
  return () => observer.disconnect();
}

/** What one rem is, in pixels: lines are as high as their text is large. */
export const useRem = () => useSyncExternalStore(watch, () => rem);
