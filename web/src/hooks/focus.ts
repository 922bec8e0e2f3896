/** Puts the cursor where it belongs once what was just asked for is on the page. */
export function focusSoon(selector: string): void {
  setTimeout(() => {
    focusOn(selector);
  });
}

export function focusOn(selector: string): void {
  document.querySelector<HTMLElement>(selector)?.focus();
}
