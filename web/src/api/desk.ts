import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerWith } from "./answer-with";
import { ask, client } from "./client";
import { CASES } from "./cases";
import type { Column, MarksWord, Me } from "./types";

export const ME = ["me"];

/** Who is here. */
export const askMe = queryOptions({
  queryKey: ME,
  queryFn: () => ask(client.GET("/api/v1/me")),
});

export const useMe = () => useQuery(askMe);

/** Another way to write numbers; statements are told anew in it. */
export function useSaveMarks() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (marks: MarksWord["name"]) => ask(client.PUT("/api/v1/me", { body: { marks } })),
    onSuccess: async (mine) => {
      await answerWith(queries, ME, mine);
      return Promise.all(
        [["case"], CASES].map((queryKey) => queries.invalidateQueries({ queryKey })),
      );
    },
  });
}

/** Other columns of the list of cases; they stand there at once. */
export function useSaveColumns() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (columns: Column[]) => ask(client.PUT("/api/v1/me/columns", { body: { columns } })),
    onMutate: (columns) =>
      queries.setQueryData<Me>(ME, (mine) => mine && { ...mine, columns: [...columns] }),
    onSettled: () => queries.invalidateQueries({ queryKey: ME }),
  });
}

/** Everything that can be chosen and typed, and what it is called. */
export const askWords = queryOptions({
  queryKey: ["words"],
  queryFn: () => ask(client.GET("/api/v1/words")),
  staleTime: Infinity,
});

export const useServerWords = (enabled: boolean) => useQuery({ ...askWords, enabled });

export function endSession(): Promise<unknown> {
  return ask(client.DELETE("/api/v1/session"));
}
