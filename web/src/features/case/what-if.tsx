import type { ReactNode } from "react";
import { StillWorking } from "../../ui/still-working";

export const FIELD = "rounded border border-rule-strong bg-sheet px-2 py-1";

/** What is wrong with what was asked, or what came of it. */
export function Outcome({
  error,
  busy,
  children,
}: {
  error: Error | null;
  busy: boolean;
  children: ReactNode;
}) {
  if (error)
    return (
      <p role="alert" className="mt-3 text-wrong">
        {error.message}
      </p>
    );
  return (
    <div aria-busy={busy} className="mt-4">
      <StillWorking busy={busy} />
      {children}
    </div>
  );
}

/** A field with its words before it. */
export function Typed({
  label,
  value,
  placeholder,
  after,
  wide = false,
  onType,
}: {
  label: string;
  value: string;
  placeholder?: string;
  after?: string;
  wide?: boolean;
  onType: (typed: string) => void;
}) {
  return (
    <label className="text-soft">
      {label}{" "}
      <input
        value={value}
        placeholder={placeholder}
        maxLength={200}
        className={`${FIELD} mx-1 text-ink ${wide ? "w-64" : "w-28 text-right"}`}
        onChange={(event) => onType(event.target.value)}
      />
      {after && ` ${after}`}
    </label>
  );
}
