import type { ReactNode } from "react";
import { useDays } from "./moment";
import type { Keeping as State } from "../hooks/keeper";
import { t } from "../texts";

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
        {t("Not saved: changed elsewhere meanwhile")}
      </p>
    );
  if (keeping.state === "reading")
    return (
      <p role="status" className="text-sm text-soft">
        {t("For reading: what you change here is not kept.")} {children}
      </p>
    );
  const said =
    keeping.state === "saved"
      ? t("Saved {at}", { at: moment(keeping.at) })
      : keeping.state === "saving"
        ? t("Saving …")
        : t("Not saved: {why}", { why: keeping.why });
  return (
    <p
      role="status"
      className={`text-sm ${keeping.state === "waiting" ? "text-wrong" : "text-soft"}`}
    >
      {said}
    </p>
  );
}
