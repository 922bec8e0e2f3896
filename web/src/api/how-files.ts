import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client } from "./client";
import { ME } from "./desk";
import type { HowFiles, Me } from "./types";

/** How files are made; it stands there at once. */
export function useSaveFiles() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: HowFiles) => ask(client.PUT("/api/v1/me/files", { body })),
    onMutate: (files) => queries.setQueryData<Me>(ME, (mine) => mine && { ...mine, files }),
    onSettled: () => queries.invalidateQueries({ queryKey: ME }),
  });
}

/** What can be chosen of it. */
export const useFileChoices = () =>
  useQuery({
    queryKey: ["file-choices"],
    queryFn: () => ask(client.GET("/api/v1/me/files/choices")),
    staleTime: Infinity,
  });
