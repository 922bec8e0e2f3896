import type { ReactNode } from "react";
import { t } from "../texts";

/** What was asked for, before the figure found. */
export function Asked({ children }: { children: ReactNode }) {
  return (
    <p className="flex items-center gap-2">
      <span aria-hidden className="size-2.5 rounded-full bg-unknown" />
      {children}
    </p>
  );
}

/** The reason there is no answer, as large as one would be. */
export function NoAnswer({ reason }: { reason: string }) {
  return (
    <>
      <p className="flex items-center gap-2">
        <span aria-hidden className="size-2.5 rounded-full border-2 border-unknown" />
        {t("There is no answer")}
      </p>
      <p role="status" className="mt-1 font-serif text-[1.7rem] leading-snug font-semibold">
        {reason}
      </p>
    </>
  );
}

/** What is to be known of an answer. */
export function Remark({ children }: { children: ReactNode }) {
  return <p className="mt-3 border-l-2 border-rule-strong pl-3 text-[0.95rem]">{children}</p>;
}
