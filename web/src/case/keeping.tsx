import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { ask, client, type CaseOpened, type Statement } from "../api/client";
import type { Keeping as State } from "./use-kept";

interface Props {
  keeping: State;
  statement: Statement;
  onTheirs: (kept: CaseOpened) => void;
  onMine: (kept: CaseOpened) => void;
}

/** Whether what stands here is kept, in words one can trust. */
export function Keeping({ keeping, statement, onTheirs, onMine }: Props) {
  const navigate = useNavigate();
  const copy = useMutation({
    mutationFn: () => ask(client.POST("/api/cases", { body: statement })),
    onSuccess: (kept) => navigate(`/cases/${kept.id}`),
  });
  if (keeping.state === "conflict")
    return (
      <div role="alert" className="rounded border border-wrong px-3 py-1 text-sm">
        <b className="text-wrong">Not saved:</b> this case was changed elsewhere meanwhile.{" "}
        <button className="underline" onClick={() => onTheirs(keeping.kept)}>
          Take the other version
        </button>
        {" · "}
        <button className="underline" onClick={() => onMine(keeping.kept)}>
          Keep mine
        </button>
        {" · "}
        <button className="underline" onClick={() => copy.mutate()}>
          Keep mine as a new case
        </button>
      </div>
    );
  const said =
    keeping.state === "saved"
      ? `Saved ${keeping.at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`
      : keeping.state === "saving"
        ? "Saving …"
        : `Not saved: ${keeping.why}. Trying again.`;
  return (
    <p
      role="status"
      className={`text-sm ${keeping.state === "waiting" ? "text-wrong" : "text-soft"}`}
    >
      {said}
    </p>
  );
}
