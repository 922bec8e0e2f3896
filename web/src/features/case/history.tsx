import { useState } from "react";
import { useRestore, useRevision, useRevisions } from "../../api/beside";
import type { CaseOpened } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { useDays } from "../../ui/moment";
import { Sheet } from "../../ui/sheet";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

interface Props {
  caseId: string;
  mayEdit: boolean;
  open: boolean;
  onOpen: (open: boolean) => void;
  flush: () => Promise<number | null>;
  onBack: (opened: CaseOpened) => void;
}

function Detail({ caseId, number }: { caseId: string; number: number }) {
  const { marks } = useDesk();
  const revision = useRevision(caseId, number, marks.name);
  if (revision.error) return <Wrong error={revision.error} className="" />;
  if (!revision.data) return <p className="text-soft">{t("Opening …")}</p>;
  const { given, found, engine, differs, note } = revision.data;
  return (
    <div className="mt-2 rounded border border-rule bg-paper p-3">
      <p className="font-serif">{given}</p>
      {note && <p className="mt-1 text-sm whitespace-pre-wrap">{note}</p>}
      {found && <p className="mt-1 font-semibold">{found}</p>}
      {differs.length > 0 && (
        <p className="text-wrong">
          {t("Answered anew: {differs}.", { differs: differs.join("; ") })}
        </p>
      )}
      <p className="text-sm text-soft">{engine}</p>
    </div>
  );
}

/** What the case said before: when, by whom, what changed; any of it can be brought back. */
export function History({ caseId, mayEdit, open, onOpen, flush, onBack }: Props) {
  const { marks } = useDesk();
  const { moment } = useDays();
  const [shown, setShown] = useState<number | null>(null);
  const list = useRevisions(caseId, marks.name, open, flush);
  const back = useRestore(caseId, flush, onBack);
  return (
    <Sheet
      title={t("History")}
      about={t("Every step this case took. Bringing one back makes a new step; nothing is lost.")}
      open={open}
      onOpen={onOpen}
    >
      <Wrong error={list.error ?? back.error} className="mt-3" />
      <ol className="mt-4 space-y-3">
        {list.data?.map(({ number, saved_at: at, by, changes, judged }, place) => (
          <li key={number} className="border-l-2 border-rule pl-4">
            <p className="text-sm text-soft">
              {number} · {moment(at)} · {by}
              {place === 0 && ` ${t("· as it stands")}`}
            </p>
            <p>{changes.join("; ")}</p>
            {judged.length > 0 && <p className="text-sm font-semibold">{judged.join("; ")}</p>}
            <p className="flex gap-4 text-sm">
              <Button
                look="link"
                aria-expanded={shown === number}
                onClick={() => setShown((now) => (now === number ? null : number))}
              >
                {shown === number ? t("Close") : t("Open")}
              </Button>
              {mayEdit && place > 0 && (
                <Button look="link" onClick={() => back.mutate(number)}>
                  {t("Bring back")}
                </Button>
              )}
            </p>
            {shown === number && <Detail caseId={caseId} number={number} />}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
