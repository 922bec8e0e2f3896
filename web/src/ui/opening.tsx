import { useId, useState, type ReactNode } from "react";
import { Button, type Look } from "./button";

type Lists = typeof import("./opened");

/** What a list is told by the button that opens it. */
export interface Opened {
  open: boolean;
  onOpen: (open: boolean) => void;
  /** Whether it was opened by a key: then the focus stands on what is chosen, else on the first. */
  byKey: boolean;
  /** The id of the button. The focus goes back to it. */
  by: string;
}

interface Props {
  /** What the button is called, where it is not the words on it. */
  name?: string;
  look?: Look;
  className?: string;
  children: ReactNode;
  list: (lists: Lists, opened: Opened) => ReactNode;
}

const OPENS = ["Enter", " ", "ArrowDown"];

/** A button that opens into a list. Lists are loaded when the pointer or the focus first comes to
 *  one: a page full of closed ones is a page of plain buttons. */
export function Opening({ name, look = "bare", className = "", children, list }: Props) {
  const by = useId();
  const [lists, setLists] = useState<Lists>();
  const [open, setOpen] = useState(false);
  const [byKey, setByKey] = useState(false);
  const load = () => {
    if (!lists) import("./opened").then(setLists, () => setOpen(false));
  };
  const press = (now: boolean, key = false) => {
    load();
    setByKey(key);
    setOpen(now);
  };
  return (
    <Button
      id={by}
      look={look}
      aria-label={name}
      aria-haspopup="menu"
      aria-expanded={open}
      className={`relative ${className}`}
      onPointerEnter={load}
      onFocus={load}
      onPointerDown={(event) => {
        // What happens in the list comes by here, too.
        if (!event.currentTarget.contains(event.target as Node)) return;
        if (event.button !== 0 || event.ctrlKey) return;
        // The list takes the focus.
        if (!open) event.preventDefault();
        press(!open);
      }}
      onKeyDown={(event) => {
        if (!event.currentTarget.contains(event.target as Node)) return;
        if (!OPENS.includes(event.key)) return;
        event.preventDefault();
        press(event.key === "ArrowDown" || !open, true);
      }}
    >
      {children}
      {lists && list(lists, { open, onOpen: setOpen, by, byKey })}
    </Button>
  );
}
