import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { ASKED } from "./asked";
import { ask, client } from "./client";
import type { AskSensitivity, Statement, Variations } from "./types";

/** The statement with the values of a point of a sweep. */
export function variant(statement: Statement, values: Record<string, string>): Promise<Statement> {
  return ask(client.POST("/api/v1/ask/variant", { body: { statement, values } }));
}

/** Results of one kind, put together: what a later part worked stands where the earlier had nothing. */
type Grids = Record<string, (string | null)[][]>;
function filled(grids: Grids, later: Grids): Grids {
  return Object.fromEntries(
    Object.entries(grids).map(([name, rows]) => [
      name,
      rows.map((row, down) =>
        row.map((cell, across) => cell ?? later[name]?.[down]?.[across] ?? null),
      ),
    ]),
  );
}

/** The parts of a sweep as one. */
function together(parts: Variations[]): Variations | undefined {
  const [first, ...others] = parts;
  if (!first) return undefined;
  return others.reduce(
    (sum, part) => ({
      ...sum,
      swept: {
        ...part.swept,
        reasons: { ...sum.swept.reasons, ...part.swept.reasons },
        results: filled(sum.swept.results, part.swept.results),
      },
      told: { ...sum.told, results: filled(sum.told.results, part.told.results) },
    }),
    first,
  );
}

/** A sweep at once, for a picture of it. */
export function useSweep(body: AskSensitivity) {
  return useQuery({
    queryKey: ["sensitivity", "at-once", body],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/sensitivity", { body, signal })),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
}

/** A sweep, asked for in parts that follow each other: what has come so far. */
export function useSweepInParts(asked: AskSensitivity, open: boolean) {
  const found = useInfiniteQuery({
    ...ASKED,
    queryKey: ["sensitivity", asked],
    queryFn: ({ signal, pageParam }) =>
      ask(client.POST("/api/v1/ask/sensitivity", { body: { ...asked, start: pageParam }, signal })),
    initialPageParam: 0,
    getNextPageParam: (part) => part.swept.next,
    select: ({ pages }) => together(pages),
    enabled: open,
    retry: false,
  });
  const { hasNextPage, isFetching, isError, fetchNextPage } = found;
  useEffect(() => {
    if (open && hasNextPage && !isFetching && !isError) void fetchNextPage();
  }, [open, hasNextPage, isFetching, isError, fetchNextPage]);
  return found;
}
