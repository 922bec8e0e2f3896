import { useQuery } from "@tanstack/react-query";
import { ask, client } from "./client";

/** A name for a file while it is made or opened, also where the page has no secure connection. */
export function someName(): string {
  const bytes = Array.from(crypto.getRandomValues(new Uint8Array(16)));
  const digits = bytes.map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return digits.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
}

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
