import { useCopyCase } from "../ui/start";
import { moment } from "../ui/moment";
import type { Keeping as State } from "./use-kept";

/** Whether what stands here is kept, in words one can trust. */
export function Keeping({ keeping, caseId }: { keeping: State; caseId: string }) {
  const copy = useCopyCase();
  if (keeping.state === "conflict")
    return (
      <p role="status" className="text-sm text-wrong">
        Not saved: changed elsewhere meanwhile
      </p>
    );
  if (keeping.state === "reading")
    return (
      <p role="status" className="text-sm text-soft">
        For reading: what you change here is not kept.{" "}
        <button className="text-choice underline" onClick={() => copy.mutate(caseId)}>
          Copy to my cases
        </button>
      </p>
    );
  const said =
    keeping.state === "saved"
      ? `Saved ${moment(keeping.at)}`
      : keeping.state === "saving"
        ? "Saving …"
        : `Not saved: ${keeping.why}`;
  return (
    <p
      role="status"
      className={`text-sm ${keeping.state === "waiting" ? "text-wrong" : "text-soft"}`}
    >
      {said}
    </p>
  );
}
