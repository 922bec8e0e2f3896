import {
  infiniteQueryOptions,
  keepPreviousData,
  queryOptions,
  useInfiniteQuery,
  useQuery,
} from "@tanstack/react-query";
import { useMemo } from "react";
import { ask, client } from "./client";
import type { CaseOpened, Content, Me, Sort, Statement } from "./types";

const SORTS = [
  "changed",
  "name",
  "created",
  "amount",
  "rate",
  "payment",
  "effective",
  "term",
  "asked",
  "answer",
] as const satisfies readonly Sort[];

/** What is looked for in the list, by what it is sorted, and which way (none: as is usual). */
export interface Look {
  q: string;
  sort: Sort;
  order: "up" | "down" | "";
  /** Only what is for the analyst to judge. */
  toJudge: boolean;
}

export const CASES = ["cases"];
export const caseKey = (id: string) => ["case", id];
const path = (id: string) => ({ params: { path: { case_id: id } } });

/** What is looked for, as the address of the list says it. */
export function lookOf(search: URLSearchParams): Look {
  const asked = (name: string) => search.get(name) ?? "";
  return {
    q: asked("q"),
    sort: SORTS.find((each) => each === asked("sort")) ?? "changed",
    order: (["up", "down"] as const).find((each) => each === asked("order")) ?? "",
    toJudge: search.has("to-judge"),
  };
}

/** The cases in which every word typed is found, page by page. */
export const askCases = ({ q, sort, order, toJudge }: Look) =>
  infiniteQueryOptions({
    queryKey: [...CASES, q, sort, order, toJudge],
    queryFn: ({ pageParam: start, signal }) => {
      const query = {
        ...(order && { last_first: order === "down" }),
        ...{ q, sort, start, to_judge: toJudge },
      };
      return ask(client.GET("/api/v1/cases", { params: { query }, signal }));
    },
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const fetched = pages.reduce((sum, page) => sum + page.items.length, 0);
      return fetched < last.total ? fetched : undefined;
    },
    // What was asked ahead is new enough for the page that shows it.
    staleTime: 2_000,
  });

export function useCases(look: Look) {
  const list = useInfiniteQuery({ ...askCases(look), placeholderData: keepPreviousData });
  const cases = useMemo(() => list.data?.pages.flatMap((page) => page.items) ?? [], [list.data]);
  const last = list.data?.pages.at(-1);
  const { total = 0, waiting = 0, last_first: lastFirst = true } = last ?? {};
  return { list, cases, total, waiting, lastFirst };
}

/** A case to work on: what is on the page is newer than what was fetched. */
export const getCase = (id: string): Promise<CaseOpened> =>
  ask(client.GET("/api/v1/cases/{case_id}", path(id)));

export const askCase = (id: string, before: () => Promise<unknown>, beside = "") =>
  queryOptions({
    queryKey: beside ? [...caseKey(id), beside] : caseKey(id),
    queryFn: async () => {
      await before();
      return getCase(id);
    },
    staleTime: Infinity,
    gcTime: 0,
  });

export const useCase = (...asked: Parameters<typeof askCase>) => useQuery(askCase(...asked));

export function startCase(body: Content): Promise<CaseOpened> {
  return ask(client.POST("/api/v1/cases", { body }));
}

export function copyCase(id: string): Promise<CaseOpened> {
  return ask(client.POST("/api/v1/cases/{case_id}/copy", path(id)));
}

/** The address of a file of these cases, or of all. */
export const casesFile = (kind: "json" | "zip" | "csv", of: readonly string[] = []) =>
  `/api/v1/cases/file?kind=${kind}${of.map((id) => `&of=${id.replaceAll("-", "")}`).join("")}`;

/** A new case: blank, begun as the analyst has them begin, the payment asked for. */
export function blankCase({ marks, begins }: Me): Content {
  const statement = { marks, name: "", ...begins, payment: "?", balance: "0" } as Statement;
  return { statement, note: "", tags: [] };
}
