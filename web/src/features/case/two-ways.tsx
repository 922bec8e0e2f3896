import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { ask, client, type Quoting, type Statement, type Way } from "../../api/client";

/** What is to be changed: the style of the quote, or how often payments are made. */
export type Change = { requote: Quoting } | { repace: Statement["every"] };

interface Props {
  statement: Statement;
  change: Change;
  /** The fields to change, or null where it stays as it was. */
  onChosen: (changed: Partial<Statement> | null) => void;
}

const KEEPS: Record<Way["keeps"], string> = {
  number: "Keep the number",
  rate: "Keep the rate",
  term: "Keep the term",
  count: "Keep the count",
  quote: "Keep the compounding, too",
};

function fields(way: Way): Partial<Statement> {
  const { quoted, compounding, over, year_days, percent, every, count } = way.statement;
  return { quoted, compounding: compounding ?? null, over, year_days, percent, every, count };
}

/** A change that can be meant in two ways: both are shown before one is chosen. */
export function TwoWays({ statement, change, onChosen }: Props) {
  const ways = useQuery({
    queryKey: ["ways", statement, change],
    queryFn: ({ signal }) =>
      "requote" in change
        ? ask(
            client.POST("/api/v1/ask/requoting", {
              body: { statement, quoting: change.requote },
              signal,
            }),
          )
        : ask(
            client.POST("/api/v1/ask/repacing", {
              body: { statement, every: change.repace },
              signal,
            }),
          ),
    staleTime: Infinity,
    gcTime: 0,
  });
  const first = useRef<HTMLButtonElement>(null);
  const found = ways.data;
  const leave = useRef(onChosen);
  useEffect(() => {
    leave.current = onChosen;
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
    if (!only) onChosen(null);
    else if (found.length === 1) onChosen(fields(only));
    else first.current?.focus();
    // Only what the server found decides; the way back does not change it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [found]);
  if (ways.error)
    return (
      <p role="alert" className="mt-2 text-wrong">
        {ways.error.message}
      </p>
    );
  if (!found || found.length < 2) return null;
  return (
    <div
      role="group"
      aria-label="Two ways to change this"
      className="mt-2 rounded-md border border-rule-strong bg-sheet p-3"
    >
      <ul className="space-y-1.5">
        {found.map((way, place) => (
          <li key={way.keeps}>
            <button
              ref={place === 0 ? first : null}
              className="w-full rounded border border-rule px-3 py-1.5 text-left hover:border-rule-strong"
              onClick={() => onChosen(fields(way))}
            >
              <b>{KEEPS[way.keeps]}</b>
              <span className="block text-[0.95rem] text-soft">{way.says}</span>
            </button>
          </li>
        ))}
      </ul>
      <button className="mt-2 text-sm text-choice underline" onClick={() => onChosen(null)}>
        Leave it as it was
      </button>
    </div>
  );
}
