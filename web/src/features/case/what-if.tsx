import type { ReactNode } from "react";
import { useDesk } from "../../hooks/use-desk";
import type { Stopping } from "../../hooks/use-stopping";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { StillWorking } from "../../ui/still-working";
import { Wrong } from "../../ui/wrong";

/** What is wrong with what was asked, or what came of it. */
export function Outcome({
  error,
  busy,
  stopping,
  children,
}: {
  error: Error | null;
  busy: boolean;
  stopping: Stopping;
  children: ReactNode;
}) {
  if (error) return <Wrong error={error} className="mt-3" />;
  return (
    <div aria-busy={busy} className="mt-4">
      <StillWorking busy={busy} stopping={stopping} />
      {children}
    </div>
  );
}

/** A field with its words before it. */
export function Typed({
  wide = false,
  ...rest
}: {
  label: string;
  value: string;
  placeholder?: string;
  after?: string;
  wide?: boolean;
  onType: (typed: string) => void;
}) {
  const { words } = useDesk();
  return (
    <Field
      labelClass="text-soft"
      maxLength={words.limits.typed}
      className={`mx-1 text-ink ${wide ? "w-64" : "w-28 text-right"}`}
      {...rest}
    />
  );
}

/** What came of a question, opened as a case of its own. */
export function OpenAs({
  children,
  taking,
  onTake,
}: {
  children: string;
  taking: { isPending: boolean; error: Error | null };
  onTake: () => void;
}) {
  return (
    <>
      <Button look="link" className="mt-3" disabled={taking.isPending} onClick={onTake}>
        {children}
      </Button>
      <Wrong error={taking.error} />
    </>
  );
}
