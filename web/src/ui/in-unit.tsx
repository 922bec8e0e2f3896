import type { ReactNode } from "react";
import { useDesk } from "../hooks/use-desk";

/** Whether a unit is read before its figure: a currency, where the reader's country writes it so. */
export function useIsFirst() {
  const { words } = useDesk();
  return (unit: string) => words.code_first && words.currencies.some(({ code }) => code === unit);
}

/** A figure and its unit in the order in which they are read; `said`: the unit as it stands there. */
export function InUnit({
  unit,
  said = unit,
  children,
}: {
  unit: string;
  said?: ReactNode;
  children: ReactNode;
}) {
  return useIsFirst()(unit) ? (
    <>
      {said} {children}
    </>
  ) : (
    <>
      {children} {said}
    </>
  );
}
