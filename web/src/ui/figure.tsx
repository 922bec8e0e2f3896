import { useId, useRef, useState, type KeyboardEvent } from "react";
import type { Reading } from "../api/types";
import { useDesk } from "../hooks/use-desk";
import { Button } from "./button";
import { t } from "../texts";

interface Props {
  /** The name of the entry, by which it can be found on the page. */
  name: string;
  title: string;
  text: string;
  reading: Reading | undefined;
  error: string | undefined;
  /** Where the error stands as well while another field is being typed in. */
  errorId?: string;
  /** Another figure stands for it meanwhile. */
  isAside?: boolean;
  onType: (text: string) => void;
  onFocus: () => void;
  /** It was left; whether something had been typed. */
  onBlur: (isEdited: boolean) => void;
}

/** Moves to the figure after or before `from`, in the order of the sentence. */
function toFigure(from: HTMLInputElement, step: number): void {
  const all = [...document.querySelectorAll<HTMLInputElement>("input[data-figure]")];
  const next = all[(all.indexOf(from) + step + all.length) % all.length];
  next?.focus();
}

/** A figure in the sentence: typed in place, read by the server, shown back in one form. */
export function Figure({
  name,
  title,
  text,
  reading,
  error,
  errorId,
  isAside = false,
  onType,
  onFocus,
  onBlur,
}: Props) {
  const { words } = useDesk();
  const note = useId();
  const field = useRef<HTMLInputElement>(null);
  const [focused, setFocused] = useState(false);
  const [edited, setEdited] = useState(false);
  const [frozen, setFrozen] = useState<string | null>(null);
  const isAsked = text.trim() === "?";
  const other = reading?.other;

  const choose = (chosen: string) => {
    onType(chosen);
    // The buttons go with the question; the focus stays at its field.
    field.current?.focus();
  };

  const keyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") {
      event.preventDefault();
      toFigure(event.currentTarget, event.shiftKey ? -1 : 1);
    } else if (event.key === "Escape") {
      event.currentTarget.blur();
    }
  };

  // Nothing changes under the caret: what stood there stays until something is typed.
  const stands = !reading?.text || other ? text : reading.text;
  const shown = edited ? text : focused && frozen !== null ? frozen : stands;
  // An empty field nobody has been in yet is no mistake.
  const blank = text === "" && !edited;
  // What can be read in two ways is asked about at its field, wherever the focus is.
  const isUnsure = Boolean(other) && !error;
  const said = blank ? undefined : (error ?? reading?.note);
  const wrong = error !== undefined && !blank;
  const look = isAside
    ? "border-b-2 border-dashed border-rule px-1 font-normal text-soft line-through"
    : isAsked
      ? "rounded-full bg-unknown text-on-unknown px-3 min-w-11 text-center font-bold"
      : `border-b-2 px-1 font-semibold ${wrong ? "border-wrong text-wrong" : "border-rule-strong"}`;

  return (
    <span className="relative inline-block max-w-full align-baseline">
      <input
        ref={field}
        data-figure={name}
        aria-label={title}
        aria-invalid={wrong ? true : undefined}
        aria-describedby={said ? (focused || isUnsure ? note : errorId) : undefined}
        value={shown}
        placeholder="…"
        size={Math.max(shown.length, 2)}
        maxLength={words.limits.typed}
        autoComplete="off"
        spellCheck={false}
        inputMode="text"
        className={`figure-field bg-transparent font-sans leading-[1.75rem] ${look} ${focused && !isAsked ? "bg-sheet" : ""}`}
        onChange={(event) => {
          setEdited(true);
          onType(event.target.value);
        }}
        onKeyDown={keyDown}
        onFocus={(event) => {
          setFrozen(shown);
          setFocused(true);
          event.target.select();
          onFocus();
        }}
        onBlur={() => {
          setFocused(false);
          setEdited(false);
          setFrozen(null);
          onBlur(edited);
        }}
      />
      {said && (focused || isUnsure) && (
        <span
          id={note}
          role={error ? "alert" : undefined}
          className={`absolute top-full left-0 z-20 mt-1 block w-max max-w-[min(22rem,75vw)] rounded border bg-sheet px-2 py-1 font-sans text-sm leading-snug shadow-md ${error ? "border-wrong text-wrong" : "border-rule text-ink"}`}
        >
          {said}
          {other && !error && (
            <>
              {" "}
              <Button
                look="link"
                onMouseDown={(event) => event.preventDefault()}
                onClick={() => choose(other)}
              >
                {t("Read as {other} instead", { other })}
              </Button>{" "}
              <Button
                look="link"
                onMouseDown={(event) => event.preventDefault()}
                onClick={() => choose(reading.text ?? text)}
              >
                {t("Keep")}
              </Button>
            </>
          )}
        </span>
      )}
    </span>
  );
}
