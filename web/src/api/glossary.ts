import { useQuery } from "@tanstack/react-query";
import { ask, client } from "./client";

/** The words that are explained where they stand. */
export function useGlossary() {
  return useQuery({
    queryKey: ["glossary"],
    queryFn: () => ask(client.GET("/api/v1/glossary")),
    staleTime: Infinity,
  });
}
