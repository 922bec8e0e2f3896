/** Whether something is being typed there: in a field of text, not at a box that is ticked. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      target.closest("input:not([type=checkbox], [type=radio]), textarea, select") !== null)
  );
}
