import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerWith } from "./answer-with";
import { CASES } from "./cases";
import { ask, client, everyPage } from "./client";
import type { Asides, CaseOpened, Shared, Statement } from "./types";
import { t } from "../texts";

const path = (id: string) => ({ params: { path: { case_id: id } } });
const numbered = (id: string, number: number) => ({ params: { path: { case_id: id, number } } });

/** The answers found in a case, the newest first; `saved`: the trail may have grown then. */
export function useTrail(
  id: string,
  marks: string,
  saved: number | null,
  open: boolean,
  before: () => Promise<unknown>,
) {
  return useQuery({
    queryKey: ["trail", id, marks, saved],
    placeholderData: keepPreviousData,
    queryFn: async () => {
      await before();
      return everyPage((start) =>
        ask(
          client.GET("/api/v1/cases/{case_id}/trail", {
            params: { path: { case_id: id }, query: { start } },
          }),
        ),
      );
    },
    enabled: open,
    staleTime: 0,
    gcTime: 0,
  });
}

/** What was given for an answer of the trail. */
export function useTrailPoint(id: string, onGiven: (given: Statement) => void) {
  return useMutation({
    mutationFn: (number: number) =>
      ask(client.GET("/api/v1/cases/{case_id}/trail/{number}", numbered(id, number))),
    onSuccess: onGiven,
  });
}

export function useNameTrailPoint(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ number, name }: { number: number; name: string }) =>
      ask(
        client.PUT("/api/v1/cases/{case_id}/trail/{number}", {
          ...numbered(id, number),
          body: { name },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["trail", id] }),
  });
}

export function useRevisions(
  id: string,
  marks: string,
  open: boolean,
  before: () => Promise<unknown>,
) {
  return useQuery({
    queryKey: ["revisions", id, marks],
    queryFn: async () => {
      await before();
      return everyPage((start) =>
        ask(
          client.GET("/api/v1/cases/{case_id}/revisions", {
            params: { path: { case_id: id }, query: { start } },
          }),
        ),
      );
    },
    enabled: open,
    staleTime: 0,
    gcTime: 0,
  });
}

export function useRevision(id: string, number: number, marks: string) {
  return useQuery({
    queryKey: ["revision", id, number, marks],
    queryFn: () =>
      ask(client.GET("/api/v1/cases/{case_id}/revisions/{number}", numbered(id, number))),
  });
}

/** The case as it stood in a revision, as its newest. */
export function useRestore(
  id: string,
  versionNow: () => Promise<number | null>,
  onBack: (opened: CaseOpened) => void,
) {
  return useMutation({
    mutationFn: async (number: number) => {
      const version = await versionNow();
      if (version === null) throw new Error(t("What stands here has to be saved first."));
      return ask(
        client.POST("/api/v1/cases/{case_id}/revisions/{number}/restore", {
          ...numbered(id, number),
          body: { version },
        }),
      );
    },
    onSuccess: onBack,
  });
}

const sharesKey = (id: string) => ["shares", id];

export function useShares(id: string, open: boolean) {
  return useQuery({
    queryKey: sharesKey(id),
    queryFn: () => ask(client.GET("/api/v1/cases/{case_id}/shares", path(id))),
    enabled: open,
  });
}

export function useSaveShares(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Shared[]) =>
      ask(client.PUT("/api/v1/cases/{case_id}/shares", { ...path(id), body })),
    onSuccess: (now) => answerWith(queries, sharesKey(id), now),
  });
}

export function useColleagues(open: boolean) {
  return useQuery({
    queryKey: ["colleagues"],
    queryFn: () =>
      everyPage((start) => ask(client.GET("/api/v1/colleagues", { params: { query: { start } } }))),
    enabled: open,
  });
}

/** Keeps what is asked beside a case, also when its page is being left. */
export function saveAsides(id: string, body: Asides): Promise<unknown> {
  return ask(client.PUT("/api/v1/cases/{case_id}/asides", { ...path(id), body, keepalive: true }));
}

/** The case and what is pinned beside it, worked from what is kept. */
export function useSideBySide(id: string, marks: string, asides: Asides) {
  return useQuery({
    queryKey: ["side-by-side", id, marks, asides.pins, asides.base],
    queryFn: ({ signal }) =>
      ask(client.GET("/api/v1/cases/{case_id}/side-by-side", { ...path(id), signal })),
    staleTime: 0,
    gcTime: 0,
    placeholderData: (before) => before,
  });
}

/** Cases beside each other as they stand now; `base`: which the others are held against. */
export function useSeveralSideBySide(of: readonly string[], base: number, marks: string) {
  return useQuery({
    queryKey: ["side-by-side", of, marks, base],
    queryFn: ({ signal }) =>
      ask(
        client.GET("/api/v1/cases/side-by-side", {
          params: { query: { of: [...of], base } },
          signal,
        }),
      ),
    staleTime: 0,
    gcTime: 0,
    placeholderData: (before) => before,
  });
}

/** The first page of them, to choose from. */
export function useCasesFound(q: string, enabled: boolean) {
  return useQuery({
    queryKey: [...CASES, "to-pin", q],
    queryFn: ({ signal }) =>
      ask(
        client.GET("/api/v1/cases", {
          params: { query: { q, sort: "changed", start: 0 } },
          signal,
        }),
      ),
    enabled,
    staleTime: 10_000,
  });
}
