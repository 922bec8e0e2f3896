import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { CASES } from "./cases";
import { ask, client } from "./client";
import { LISTS } from "./quotes";

/** What analysts come for, job by job, in the reader's marks. */
export function useGuide(marks: string) {
  return useQuery({
    queryKey: ["guide", marks],
    queryFn: () => ask(client.GET("/api/v1/guide")),
    staleTime: Infinity,
  });
}

/** The example of a job, made one's own; `onOpened` is told where it is. */
export function useExample(onOpened: (to: string) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (name: string) =>
      ask(client.POST("/api/v1/guide/{name}", { params: { path: { name } } })),
    onSuccess: ({ to }) => {
      for (const queryKey of [CASES, LISTS, ["tables"]])
        void queries.invalidateQueries({ queryKey });
      onOpened(to);
    },
  });
}
