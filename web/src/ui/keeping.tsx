import type { ReactNode } from "react";
import { useDays } from "./moment";
import type { Keeping as State } from "../hooks/keeper";

/** Whether what stands here is kept, in words one can trust. */
export function Keeping<C, K>({
  keeping,
  children,
}: {
  keeping: State<C, K>;
  /** What can be done where this is only for reading. */
  children?: ReactNode;
}) {
  const { moment } = useDays();
  if (keeping.state === "conflict")
    return (
      <p role="status" className="text-sm text-wrong">
        Not saved: changed elsewhere meanwhile
      </p>
    );
  if (keeping.state === "reading")
    return (
      <p role="status" className="text-sm text-soft">
        For reading: what you change here is not kept. {children}
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
