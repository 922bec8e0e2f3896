import type { KeyboardEvent } from "react";

/** In an area of text Enter is a new line: Ctrl+Enter sends what stands there. */
export const sends = (run: () => void) => (event: KeyboardEvent) => {
  if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
  event.preventDefault();
  run();
};
