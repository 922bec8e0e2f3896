import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client, everyPage } from "./client";
import type { TokenAsked } from "./types";

const TOKENS = ["tokens"];

/** One's tokens, the newest first. */
export const useTokens = () =>
  useQuery({
    queryKey: TOKENS,
    queryFn: () =>
      everyPage((start) => ask(client.GET("/api/v1/tokens", { params: { query: { start } } }))),
  });

/** A new token; its key is in the answer, this once. */
export function useMakeToken() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: TokenAsked) => ask(client.POST("/api/v1/tokens", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: TOKENS }),
    gcTime: 0,
  });
}

export function useRevokeToken() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (token_id: string) =>
      ask(client.DELETE("/api/v1/tokens/{token_id}", { params: { path: { token_id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: TOKENS }),
  });
}
