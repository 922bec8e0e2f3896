/** Puts the cursor where it belongs once what was just asked for is on the page. */
export function focusSoon(selector: string): void {
  setTimeout(() => {
    focusOn(selector);
  });
}

export function focusOn(selector: string): void {
  document.querySelector<HTMLElement>(selector)?.focus();
}

/** Opens the list of a button, as its own key does. */
export function openList(selector: string): void {
  focusOn(selector);
  document.activeElement?.dispatchEvent(
    new KeyboardEvent("keydown", { key: "ArrowDown", bubbles: true }),
  );
}
