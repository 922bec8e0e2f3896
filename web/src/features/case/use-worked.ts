import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ask, client, type Statement, type Worked } from "../../api/client";
import { useSettled } from "../../hooks/use-settled";

const PAUSE = 90;

interface WorkedNow {
  worked: Worked | undefined;
  /** Whether `worked` belongs to the statement as it stands. */
  current: boolean;
  failed: Error | null;
}

/**
 * The statement worked by the server, following every keystroke. Each statement is a question of
 * its own, so an answer that comes late never stands under a later statement.
 */
export function useWorked(statement: Statement, yearStarts: number | null): WorkedNow {
  const settled = useSettled(statement, PAUSE);
  const query = useQuery({
    queryKey: ["work", settled, yearStarts],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/v1/work", {
          params: { query: { year_starts: yearStarts } },
          body: settled,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
  });
  return {
    worked: query.data,
    current: settled === statement && query.isSuccess && !query.isPlaceholderData,
    failed: query.error,
  };
}
