import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerWith } from "./answer-with";
import { ask, client } from "./client";
import { CASES } from "./cases";
import type { Begins, Column, MarksWord, Me, Preset } from "./types";

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

/** Everything that can be chosen and typed, and what it is called. */
export const askWords = queryOptions({
  queryKey: ["words"],
  queryFn: () => ask(client.GET("/api/v1/words")),
  staleTime: Infinity,
});

export const useServerWords = (enabled: boolean) => useQuery({ ...askWords, enabled });

/** Whether there is a demo desk to enter. */
export function useDoor() {
  return useQuery({
    queryKey: ["door"],
    queryFn: () => ask(client.GET("/api/v1/door")),
    staleTime: Infinity,
  });
}

export function useEnter(onIn: (me: Me) => void, onNot: () => void) {
  return useMutation({
    mutationFn: (body: { username: string; password: string }) =>
      ask(client.POST("/api/v1/session", { body })),
    onSuccess: onIn,
    onError: onNot,
  });
}

export function useEnterDemo(onIn: (me: Me) => void) {
  return useMutation({
    mutationFn: () => ask(client.POST("/api/v1/session/demo")),
    onSuccess: onIn,
  });
}

export function endSession(): Promise<unknown> {
  return ask(client.DELETE("/api/v1/session"));
}

export function useChangePassword(onChanged: () => void) {
  return useMutation({
    mutationFn: (body: { old: string; new: string }) =>
      ask(client.PUT("/api/v1/password", { body })),
    onSuccess: onChanged,
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
