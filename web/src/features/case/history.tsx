import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, type CaseOpened, client, everyPage } from "../../api/client";
import { moment } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { Sheet } from "../../ui/sheet";
import { isTimed, paymentPeriod, quoteWords } from "../../ui/choices";

interface Props {
  caseId: string;
  mayEdit: boolean;
  open: boolean;
  onOpen: (open: boolean) => void;
  flush: () => Promise<number | null>;
  onBack: (opened: CaseOpened) => void;
}

function Detail({ caseId, number }: { caseId: string; number: number }) {
  const { marks, words } = useDesk();
  const revision = useQuery({
    queryKey: ["revision", caseId, number, marks.name],
    queryFn: () =>
      ask(
        client.GET("/api/v1/cases/{case_id}/revisions/{number}", {
          params: { path: { case_id: caseId, number } },
        }),
      ),
  });
  if (revision.error) return <p className="text-wrong">{revision.error.message}</p>;
  if (!revision.data) return <p className="text-soft">Opening …</p>;
  const { statement, answer, engine, differs, note } = revision.data;
  const period = paymentPeriod(statement, words.periods);
  return (
    <div className="mt-2 rounded border border-rule bg-paper p-3">
      <p className="font-serif">
        {statement.principal || "…"} {statement.currency} at {statement.percent || "…"} %{" "}
        {quoteWords(statement, words.periods)}
        {isTimed(statement) && ` ${statement.over || "…"}`}, {statement.count || "…"} {period.often}{" "}
        payments of {statement.payment || "…"} at the{" "}
        {statement.timing === "in-advance" ? "start" : "end"}, then {statement.balance || "…"} owed.
      </p>
      {note && <p className="mt-1 text-sm whitespace-pre-wrap">{note}</p>}
      <p className="mt-1">
        {answer?.value ? (
          <>
            Answer then: <b>{inMarks(answer.value, marks)}</b>
          </>
        ) : (
          (answer?.reason ?? "It was not whole then.")
        )}
      </p>
      {differs.length > 0 && <p className="text-wrong">Answered anew: {differs.join("; ")}.</p>}
      <p className="text-sm text-soft">{engine}</p>
    </div>
  );
}

/** What the case said before: when, by whom, what changed; any of it can be brought back. */
export function History({ caseId, mayEdit, open, onOpen, flush, onBack }: Props) {
  const { marks } = useDesk();
  const [shown, setShown] = useState<number | null>(null);
  const list = useQuery({
    queryKey: ["revisions", caseId, marks.name],
    queryFn: async () => {
      await flush();
      return everyPage((start) =>
        ask(
          client.GET("/api/v1/cases/{case_id}/revisions", {
            params: { path: { case_id: caseId }, query: { start } },
          }),
        ),
      );
    },
    enabled: open,
    staleTime: 0,
    gcTime: 0,
  });
  const back = useMutation({
    mutationFn: async (number: number) => {
      const version = await flush();
      if (version === null) throw new Error("What stands here has to be saved first.");
      return ask(
        client.POST("/api/v1/cases/{case_id}/revisions/{number}/restore", {
          params: { path: { case_id: caseId, number } },
          body: { version },
        }),
      );
    },
    onSuccess: onBack,
  });
  return (
    <Sheet
      title="History"
      about="Every step this case took. Bringing one back makes a new step; nothing is lost."
      open={open}
      onOpen={onOpen}
    >
      {(list.error ?? back.error) && (
        <p role="alert" className="mt-3 text-wrong">
          {(list.error ?? back.error)?.message}
        </p>
      )}
      <ol className="mt-4 space-y-3">
        {list.data?.map((revision, place) => (
          <li key={revision.number} className="border-l-2 border-rule pl-4">
            <p className="text-sm text-soft">
              {revision.number} · {moment(revision.saved_at)} · {revision.by}
              {place === 0 && " · as it stands"}
            </p>
            <p>{revision.changes.join("; ")}</p>
            <p className="flex gap-4 text-sm">
              <button
                className="text-choice underline"
                aria-expanded={shown === revision.number}
                onClick={() =>
                  setShown((now) => (now === revision.number ? null : revision.number))
                }
              >
                {shown === revision.number ? "Close" : "Open"}
              </button>
              {mayEdit && place > 0 && (
                <button
                  className="text-choice underline"
                  onClick={() => back.mutate(revision.number)}
                >
                  Bring back
                </button>
              )}
            </p>
            {shown === revision.number && <Detail caseId={caseId} number={revision.number} />}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
