import { useQuery } from "@tanstack/react-query";
import { ask, client } from "./client";

/** How much of a file that is being made is there, from 0 to 1. */
export function useFileProgress(making: string | undefined, enabled: boolean) {
  return useQuery({
    queryKey: ["making", making],
    queryFn: ({ signal }) =>
      ask(
        client.GET("/api/v1/files/{making}/progress", {
          params: { path: { making: making ?? "" } },
          signal,
        }),
      ),
    enabled: enabled && making !== undefined,
    refetchInterval: 400,
    gcTime: 0,
    retry: false,
  });
}
