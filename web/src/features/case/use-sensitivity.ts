import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { ask, client, type AskSensitivity, type Variations } from "../../api/client";

/** The parts of a sweep as one: what a later part worked stands where the earlier had nothing. */
function together(parts: Variations[]): Variations | undefined {
  const [first, ...others] = parts;
  if (!first) return undefined;
  return others.reduce(
    (sum, part) => ({
      ...sum,
      swept: {
        ...part.swept,
        reasons: { ...sum.swept.reasons, ...part.swept.reasons },
        results: Object.fromEntries(
          Object.entries(sum.swept.results).map(([name, rows]) => [
            name,
            rows.map((row, down) =>
              row.map((cell, across) => cell ?? part.swept.results[name]?.[down]?.[across] ?? null),
            ),
          ]),
        ),
      },
    }),
    first,
  );
}

/** How many points of a sweep are worked, and how many there are. */
export function workedOf({ swept }: Variations): [number, number] {
  const all = swept.values.reduce((product, values) => product * values.length, 1);
  return [swept.next ?? all, all];
}

/** A sweep, asked for in parts that follow each other: what has come so far. */
export function useSweep(asking: string, open: boolean) {
  const found = useInfiniteQuery({
    queryKey: ["moves", asking],
    queryFn: ({ signal, pageParam }) =>
      ask(
        client.POST("/api/v1/ask/sensitivity", {
          body: { ...(JSON.parse(asking) as AskSensitivity), start: pageParam },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (part) => part.swept.next,
    select: ({ pages }) => together(pages),
    enabled: open,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
  const { hasNextPage, isFetching, isError, fetchNextPage } = found;
  useEffect(() => {
    if (open && hasNextPage && !isFetching && !isError) void fetchNextPage();
  }, [open, hasNextPage, isFetching, isError, fetchNextPage]);
  return found;
}
