import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerWith } from "./answer-with";
import { ask, client } from "./client";
import { ME } from "./desk";
import type { Begins, Preset } from "./types";

/** How a new case begins; lines are read anew by it. */
export function useSaveBegins() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (begins: Begins) => ask(client.PUT("/api/v1/me/begins", { body: begins })),
    onSuccess: async (mine) => {
      await answerWith(queries, ME, mine);
      queries.removeQueries({ queryKey: ["line"] });
    },
  });
}

const PRESETS = ["presets"];
const NONE: readonly Preset[] = [];

/** The ways of quoting this analyst has named. */
export function usePresets(): readonly Preset[] {
  const presets = useQuery({
    queryKey: PRESETS,
    queryFn: () => ask(client.GET("/api/v1/presets")),
    staleTime: Infinity,
  });
  return presets.data ?? NONE;
}

export function useSavePresets() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (presets: Preset[]) => ask(client.PUT("/api/v1/presets", { body: { presets } })),
    onSuccess: (kept) => answerWith(queries, PRESETS, kept),
  });
}
