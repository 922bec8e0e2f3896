import type { QueryClient, QueryKey } from "@tanstack/react-query";

/** What the server answered to a change stands for the query; a look that began before it does not. */
export async function answerWith(queries: QueryClient, queryKey: QueryKey, answer: unknown) {
  await queries.cancelQueries({ queryKey });
  queries.setQueryData(queryKey, answer);
}
