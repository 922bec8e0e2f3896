import { useMemo, useRef } from "react";

/** For a dialog: where the focus was when it opened, it goes back to when it closes. */
export function useFocusBack() {
  const opener = useRef<Element | null>(null);
  return useMemo(
    () => ({
      onOpenAutoFocus: () => {
        // Of a list that is gone by then, the button that opened it.
        const by = document.activeElement?.closest("[role=menu]")?.getAttribute("aria-labelledby");
        opener.current = by ? document.getElementById(by) : document.activeElement;
      },
      onCloseAutoFocus: (event: Event) => {
        event.preventDefault();
        if (opener.current instanceof HTMLElement) opener.current.focus();
      },
    }),
    [],
  );
}
