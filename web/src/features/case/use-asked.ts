import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ask, client, type Statement } from "../../api/client";
import { useSettled } from "../../hooks/use-settled";

const PAUSE = 90;

export type Payoff = "nearest" | "up";

/** What is owed at the moments typed; nothing while nothing is. */
export function useOwed(
  statement: Statement,
  at: string,
  ready: boolean,
  payoff: Payoff = "nearest",
) {
  const settled = useSettled(at.trim(), PAUSE);
  return useQuery({
    queryKey: ["owed", statement, settled, payoff],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/v1/ask/balance-at", { body: { statement, at: settled, payoff }, signal }),
      ),
    enabled: ready && settled !== "",
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
}

/** What the stretch typed adds up to; nothing while none is. */
export function useStretch(statement: Statement, stretch: string, ready: boolean) {
  const settled = useSettled(stretch.trim(), PAUSE);
  return useQuery({
    queryKey: ["stretch", statement, settled],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/v1/ask/period-totals", { body: { statement, stretch: settled }, signal }),
      ),
    enabled: ready && settled !== "",
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
}
