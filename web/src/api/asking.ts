import { useQuery, type UseQueryResult } from "@tanstack/react-query";
import { ASKED } from "./asked";
import { ask, client } from "./client";
import type {
  Content,
  Matched,
  More,
  NewOffer,
  Payoff,
  PayoffRounding,
  Points,
  Quoting,
  Statement,
  Way,
  Worked,
} from "./types";

/** A statement, and the month in which the years of its schedule start. */
export interface ToWork {
  statement: Statement;
  yearStarts: number | null;
}

/** The statement worked. Every keystroke is a question: answers nobody looks at soon go. */
export function useWork({ statement, yearStarts }: ToWork): UseQueryResult<Worked> {
  return useQuery({
    ...ASKED,
    gcTime: 5_000,
    queryKey: ["work", statement, yearStarts],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/v1/work", {
          params: { query: { year_starts: yearStarts } },
          body: statement,
          signal,
        }),
      ),
  });
}

/** What is owed at the moments typed; nothing while nothing is. */
export function useBalanceAt(
  statement: Statement,
  at: string,
  payoff: PayoffRounding,
  ready: boolean,
) {
  return useQuery({
    ...ASKED,
    queryKey: ["balance-at", statement, at, payoff],
    queryFn: ({ signal }) => balanceAt(statement, at, payoff, signal),
    enabled: ready && at !== "",
    retry: false,
  });
}

export function balanceAt(
  statement: Statement,
  at: string,
  payoff: PayoffRounding,
  signal?: AbortSignal,
) {
  const body = { statement, at, payoff };
  return ask(client.POST("/api/v1/ask/balance-at", { body, ...(signal && { signal }) }));
}

/** What the stretch typed adds up to; nothing while none is. */
export function usePeriodTotals(statement: Statement, stretch: string, ready: boolean) {
  return useQuery({
    ...ASKED,
    queryKey: ["period-totals", statement, stretch],
    queryFn: ({ signal }) =>
      ask(client.POST("/api/v1/ask/period-totals", { body: { statement, stretch }, signal })),
    enabled: ready && stretch !== "",
    retry: false,
  });
}

/** What it costs to end the loan early. */
export function usePayoff(
  body: { statement: Statement; at: string; charge: Payoff },
  open: boolean,
) {
  return useQuery({
    ...ASKED,
    queryKey: ["payoff", body],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/payoff", { body, signal })),
    enabled: open,
    retry: false,
  });
}

/** The loan ended early and lent anew. */
export function useRefinancing(
  body: { statement: Statement; at: string; charge: Payoff; offer: NewOffer },
  open: boolean,
) {
  return useQuery({
    ...ASKED,
    queryKey: ["refinancing", body],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/refinancing", { body, signal })),
    enabled: open,
    retry: false,
  });
}

export function useRateCurve(statement: Statement) {
  return useQuery({
    queryKey: ["rate-curve", statement],
    queryFn: ({ signal }) =>
      ask(client.POST("/api/v1/ask/rate-curve", { body: { statement }, signal })),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
}

/** Where a statement without an answer leads, and what would give it one. */
export function useWaysOut(statement: Statement) {
  return useQuery({
    ...ASKED,
    queryKey: ["ways-out", statement],
    queryFn: ({ signal }) =>
      ask(client.POST("/api/v1/ask/ways-out", { body: { statement }, signal })),
    retry: false,
  });
}

export function usePayingMore(asked: { statement: Statement; more: More }, open: boolean) {
  return useQuery({
    ...ASKED,
    queryKey: ["paying-more", asked],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/paying-more", { body: asked, signal })),
    enabled: open,
    retry: false,
  });
}

export function usePoints(asked: { statement: Statement; points: Points }, open: boolean) {
  return useQuery({
    ...ASKED,
    queryKey: ["points", asked],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/points", { body: asked, signal })),
    enabled: open,
    retry: false,
  });
}

/** Somebody's schedule held against ours. */
export const askReconciliation = (
  body: { statement: Statement; text: string; matched: Matched | null; tolerance: string },
  signal: AbortSignal,
) => ask(client.POST("/api/v1/ask/reconciliation", { body, signal }));

/** The ways to quote the rate otherwise, or to pay at another pace. */
export function useWays(
  statement: Statement,
  change: { requote: Quoting } | { repace: Statement["every"] },
): UseQueryResult<Way[]> {
  return useQuery({
    queryKey: ["ways", statement, change],
    queryFn: ({ signal }) =>
      "requote" in change
        ? ask(
            client.POST("/api/v1/ask/requoting", {
              body: { statement, quoting: change.requote },
              signal,
            }),
          )
        : ask(
            client.POST("/api/v1/ask/repacing", {
              body: { statement, every: change.repace },
              signal,
            }),
          ),
    staleTime: Infinity,
    gcTime: 0,
  });
}

/** What two versions of a case say otherwise. */
export function useDifferences(mine: Content, theirs: Content, base: Content) {
  const body = { mine, theirs, base };
  return useQuery({
    ...ASKED,
    queryKey: ["differences", body],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/differences", { body, signal })),
  });
}
