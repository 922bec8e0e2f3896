import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, everyPage, type Pin, type Statement, type TrailTold } from "../../api/client";
import { moment } from "../../ui/moment";
import { inMarks, rounded, trimmed } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { Sheet } from "../../ui/sheet";
import { titleOf, unknownEntry } from "./figures";
import { MOST_PINS } from "./pins";

interface Props {
  caseId: string;
  mayEdit: boolean;
  pins: Pin[];
  open: boolean;
  onOpen: (open: boolean) => void;
  flush: () => Promise<number | null>;
  /** When the case was last saved: the trail may have grown then. */
  saved: number | null;
  /** Puts what was given for an answer back into the case. */
  onBack: (statement: Statement) => void;
  onPins: (pins: Pin[]) => void;
}

/** What an answer of the trail is called by the figure it was found for. */
function foundWords(point: TrailTold): string {
  const entry = unknownEntry(point.unknown);
  if (entry === null) return "Nothing was asked for: the figures were checked";
  return titleOf(entry);
}

function Name({ point, onName }: { point: TrailTold; onName: (name: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    if (typed !== null && typed.trim() !== point.name) onName(typed.trim());
    setTyped(null);
  };
  if (typed === null)
    return (
      <button className="text-choice underline" onClick={() => setTyped(point.name)}>
        {point.name ? "Rename" : "Name it"}
      </button>
    );
  return (
    <input
      autoFocus
      aria-label={`Name of answer ${point.number}`}
      value={typed}
      maxLength={120}
      className="rounded border border-rule-strong bg-sheet px-2 text-ink"
      onChange={(event) => setTyped(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === "Enter") done();
        if (event.key === "Escape") {
          event.stopPropagation();
          setTyped(null);
        }
      }}
    />
  );
}

/** Every answer found in the case, with what was given; any of them can be gone back to. */
export function Trail({
  caseId,
  mayEdit,
  pins,
  open,
  onOpen,
  flush,
  saved,
  onBack,
  onPins,
}: Props) {
  const { marks } = useDesk();
  const queries = useQueryClient();
  const queryKey = ["trail", caseId, marks.name];
  const list = useQuery({
    queryKey: [...queryKey, saved],
    placeholderData: keepPreviousData,
    queryFn: async () => {
      await flush();
      return everyPage((start) =>
        ask(
          client.GET("/api/v1/cases/{case_id}/trail", {
            params: { path: { case_id: caseId }, query: { start } },
          }),
        ),
      );
    },
    enabled: open,
    staleTime: 0,
    gcTime: 0,
  });
  const path = (number: number) => ({ params: { path: { case_id: caseId, number } } });
  const back = useMutation({
    mutationFn: (number: number) =>
      ask(client.GET("/api/v1/cases/{case_id}/trail/{number}", path(number))),
    onSuccess: onBack,
  });
  const naming = useMutation({
    mutationFn: ({ number, name }: { number: number; name: string }) =>
      ask(
        client.PUT("/api/v1/cases/{case_id}/trail/{number}", { ...path(number), body: { name } }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey }),
  });
  const pinned = (number: number) =>
    pins.some((pin) => pin.case === caseId && pin.point === number);
  const error = list.error ?? back.error ?? naming.error;
  const shown = (point: TrailTold) =>
    point.value === null
      ? ""
      : inMarks(
          point.unknown === "rate" || point.unknown?.endsWith("percent")
            ? trimmed(rounded(point.value, 6))
            : point.value,
          marks,
        );
  return (
    <Sheet
      title="Trail"
      about="Every answer found in this case, with what was given for it. Going back loses nothing."
      open={open}
      onOpen={onOpen}
    >
      {error && (
        <p role="alert" className="mt-3 text-wrong">
          {error.message}
        </p>
      )}
      {list.data?.length === 0 && (
        <p className="mt-4 text-soft">
          Nothing has been found yet. Every answer will be listed here.
        </p>
      )}
      <ol aria-label="Trail" className="mt-4 space-y-4">
        {list.data?.map((point) => (
          <li
            key={point.number}
            className={`border-l-2 pl-4 ${point.stands ? "border-choice" : "border-rule"}`}
          >
            <p className="text-sm text-soft">
              {point.number} · {moment(point.found_at)} · {point.by}
              {point.stands && " · as it stands"}
            </p>
            {point.name && <p className="font-semibold">{point.name}</p>}
            <p>
              {foundWords(point)}
              {shown(point) && <b className="ml-2 text-xl">{shown(point)}</b>}
              {point.total_interest && (
                <span className="ml-3 text-soft">
                  interest {inMarks(point.total_interest, marks)}
                </span>
              )}
            </p>
            <p className="text-[0.95rem]">
              {point.changes.length > 0 ? point.changes.join("; ") : point.given}
            </p>
            {point.changes.length > 0 && (
              <details className="text-sm text-soft">
                <summary className="cursor-pointer">All that was given</summary>
                {point.given}
              </details>
            )}
            {mayEdit && (
              <p className="flex flex-wrap gap-4 text-sm">
                {!point.stands && (
                  <button
                    className="text-choice underline"
                    disabled={back.isPending}
                    onClick={() => back.mutate(point.number)}
                  >
                    Go back to it
                  </button>
                )}
                <Name
                  point={point}
                  onName={(name) => naming.mutate({ number: point.number, name })}
                />
                {pinned(point.number) ? (
                  <button
                    className="text-choice underline"
                    onClick={() =>
                      onPins(
                        pins.filter((pin) => pin.case !== caseId || pin.point !== point.number),
                      )
                    }
                  >
                    Take off side by side
                  </button>
                ) : (
                  <button
                    className="text-choice underline disabled:text-soft disabled:no-underline"
                    disabled={pins.length >= MOST_PINS}
                    title={pins.length >= MOST_PINS ? "Six can stand side by side" : undefined}
                    onClick={() => onPins([...pins, { case: caseId, point: point.number }])}
                  >
                    Pin side by side
                  </button>
                )}
              </p>
            )}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
