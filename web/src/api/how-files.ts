import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client } from "./client";
import { ME } from "./desk";
import type { HowFiles, Me } from "./types";

/** How files are made, and in which language all is said; it stands there at once. */
export function useSaveFiles() {
  const queries = useQueryClient();
  return useMutation({
    // Only what is changed is sent: another change may be on its way.
    mutationFn: (body: Partial<HowFiles>) =>
      ask(client.PUT("/api/v1/me/files", { body: body as HowFiles })),
    onMutate: async (changed) => {
      await queries.cancelQueries({ queryKey: ME });
      queries.setQueryData<Me>(
        ME,
        (mine) => mine && { ...mine, files: { ...mine.files, ...changed } },
      );
    },
    // A page is in one language from its beginning.
    onSuccess: (_told, { language }) => {
      if (language !== undefined) location.reload();
    },
    onSettled: (_told, _error, { country }) => {
      // Days stand in all that was answered.
      return queries.invalidateQueries(country === undefined ? { queryKey: ME } : {});
    },
  });
}

/** What can be chosen of it. */
export const useFileChoices = () =>
  useQuery({
    queryKey: ["file-choices"],
    queryFn: () => ask(client.GET("/api/v1/me/files/choices")),
    staleTime: Infinity,
  });
