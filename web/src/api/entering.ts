import { useMutation, useQuery } from "@tanstack/react-query";
import { ask, client } from "./client";
import type { Me } from "./types";

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

export function useChangePassword(onChanged: () => void) {
  return useMutation({
    mutationFn: (body: { old: string; new: string }) =>
      ask(client.PUT("/api/v1/password", { body })),
    onSuccess: onChanged,
  });
}
