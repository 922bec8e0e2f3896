import { useRef, useState, type ReactNode, type SyntheticEvent } from "react";

type Hinted = typeof import("./hinted").Hinted;

/** How long the pointer or the focus rests before what is under it is explained. */
const REST = 450;

interface Props {
  /** The words of the glossary that explain it. */
  of: readonly string[];
  className?: string;
  children: ReactNode;
}

/** Something that is explained while the pointer rests on it, or the focus; Esc puts it away. */
export function Hint({ of, className = "", children }: Props) {
  const box = useRef<HTMLSpanElement>(null);
  const waits = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [open, setOpen] = useState(false);
  const [place, setPlace] = useState<HTMLElement | null>(null);
  const [Part, setPart] = useState<Hinted>();
  const come = (event: SyntheticEvent<HTMLElement>) => {
    clearTimeout(waits.current);
    // What happens in a list that it opens comes by here, too.
    if (!event.currentTarget.contains(event.target as Node)) return;
    setPlace(event.currentTarget.closest<HTMLElement>("main, [role=dialog]"));
    waits.current = setTimeout(() => setOpen(true), REST);
    // What cannot be loaded explains nothing, and takes nothing along.
    if (!Part)
      import("./hinted").then(
        ({ Hinted }) => setPart(() => Hinted),
        () => undefined,
      );
  };
  const go = () => {
    clearTimeout(waits.current);
    setOpen(false);
  };
  return (
    <span
      ref={box}
      role="presentation"
      className={`relative ${className}`}
      onPointerEnter={come}
      onPointerLeave={go}
      onFocus={(event) => {
        // Where the pointer put the focus, nothing is asked.
        if (event.target.matches(":focus-visible")) come(event);
      }}
      onBlur={go}
      onPointerDown={go}
      onKeyDown={(event) => {
        if (event.key !== "Escape" || !open) return;
        event.stopPropagation();
        go();
      }}
    >
      {children}
      {Part && open && <Part of={of} box={box} place={place} onOpen={setOpen} />}
    </span>
  );
}
