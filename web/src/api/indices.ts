import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client } from "./client";
import type { IndexAsked, MarksWord } from "./types";

const INDICES = ["indices"];

/** The indices kept on the desk, their fixings in marks. */
export const useIndices = (marks: MarksWord["name"]) =>
  useQuery({
    queryKey: [...INDICES, marks],
    queryFn: async () =>
      (await ask(client.GET("/api/v1/indices", { params: { query: { marks } } }))).items,
    staleTime: 0,
  });

function useChange<Asked, Told>(mutationFn: (asked: Asked) => Promise<Told>) {
  const queries = useQueryClient();
  const onSuccess = () => queries.invalidateQueries({ queryKey: INDICES });
  return useMutation({ mutationFn, onSuccess });
}

/** Fixings kept by a name, for other loans. */
export const useKeepIndex = () =>
  useChange((body: IndexAsked) => ask(client.POST("/api/v1/indices", { body })));

export const useDeleteIndex = () =>
  useChange((index_id: string) =>
    ask(client.DELETE("/api/v1/indices/{index_id}", { params: { path: { index_id } } })),
  );
