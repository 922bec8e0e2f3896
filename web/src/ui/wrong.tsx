import type { ReactNode } from "react";
import type { FieldError } from "../api/types";

/** What went wrong, in a sentence; nothing where nothing did. */
export function Wrong({
  error,
  children,
  className = "mt-2",
}: {
  error?: { message: string } | null | undefined;
  children?: ReactNode;
  className?: string;
}) {
  const said = children ?? error?.message;
  if (!said) return null;
  return (
    <p role="alert" className={`text-wrong ${className}`}>
      {said}
    </p>
  );
}

/** What could not be read of a file, a line each. */
export function Unread({
  errors,
  className = "",
}: {
  errors: readonly FieldError[];
  className?: string;
}) {
  return (
    <ul className={className}>
      {errors.map((error) => (
        <li key={error.field + error.message}>
          {error.field && <b>{error.field}: </b>}
          {error.message}
        </li>
      ))}
    </ul>
  );
}
