import { useEffect, useRef, useState } from "react";
import { useWays } from "../../api/asking";
import type { Quoting, Statement, Way } from "../../api/types";
import { patched } from "../../hooks/patched";
import { Button } from "../../ui/button";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

/** What is to be changed: the style of the quote, or how often payments are made. */
export type Change = { requote: Quoting } | { repace: Statement["every"] };

interface Props {
  statement: Statement;
  change: Change;
  /** The fields to change, or null where it stays as it was. */
  onChosen: (changed: Partial<Statement> | null) => void;
}

function fields(statement: Way["statement"]): Partial<Statement> {
  const { quoted, compounding, over, year_days, percent, every, count } = statement;
  return { quoted, compounding: compounding ?? null, over, year_days, percent, every, count };
}

/** A change that can be meant in two ways: both are shown before one is chosen. */
export function TwoWays({ statement, change, onChosen }: Props) {
  // What was chosen is a choice of two, or none, by what stood then: what is typed on the way stays.
  const [stood] = useState(statement);
  const atFirst = useWays(stood, change);
  const since = useWays(statement, change);
  const isSettled = atFirst.data !== undefined && atFirst.data.length < 2;
  const ways = isSettled ? atFirst : since;
  const first = useRef<HTMLButtonElement>(null);
  const found = ways.data;
  const from = useRef<Element>(null);
  const choose = (way: Way | null) => {
    const before = fields(isSettled ? stood : statement);
    onChosen(way && patched(fields(statement), before, fields(way.statement)));
  };
  const leave = useRef(choose);
  useEffect(() => {
    leave.current = (way) => {
      choose(way);
      // The focus goes back to what was changed.
      if (from.current instanceof HTMLElement) from.current.focus();
    };
  });
  // Wherever the focus is, Esc leaves it as it was.
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key === "Escape") leave.current(null);
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, []);
  useEffect(() => {
    const only = found?.[0];
    if (!found) return;
    if (!only) leave.current(null);
    else if (found.length === 1) leave.current(only);
    else {
      from.current = document.activeElement;
      first.current?.focus();
    }
  }, [found]);
  if (ways.error) return <Wrong error={ways.error} />;
  if (!found || found.length < 2) return null;
  return (
    <div
      role="group"
      aria-label={t("Two ways to change this")}
      className="mt-2 rounded-md border border-rule-strong bg-sheet p-3"
    >
      <ul className="space-y-1.5">
        {found.map((way, place) => (
          <li key={way.keeps}>
            <Button
              ref={place === 0 ? first : null}
              look="bare"
              className="w-full rounded border border-rule px-3 py-1.5 text-left hover:border-rule-strong"
              onClick={() => leave.current(way)}
            >
              <b>{way.title}</b>
              <span className="block text-[0.95rem] text-soft">{way.says}</span>
            </Button>
          </li>
        ))}
      </ul>
      <Button look="link" className="mt-2 text-sm" onClick={() => leave.current(null)}>
        {t("Leave it as it was")}
      </Button>
    </div>
  );
}
