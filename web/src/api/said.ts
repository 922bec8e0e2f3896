import { useMutation, useQuery, type UseQueryResult } from "@tanstack/react-query";
import { ASKED } from "./asked";
import { ask, client } from "./client";
import type { SaidClauses, SaidLoan, Statement } from "./types";

/** A loan as one says it, and the currency where the line says none. */
export interface ToSay {
  line: string;
  currency: string;
}

/** A line as it is read; nothing while nothing is said. */
export function useSaidLine(body: ToSay): UseQueryResult<SaidLoan> {
  return useQuery({
    ...ASKED,
    gcTime: 5_000,
    queryKey: ["line", body],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/line", { body, signal })),
    enabled: body.line.trim() !== "",
    retry: false,
  });
}

export const askLine = (body: ToSay): Promise<SaidLoan> =>
  ask(client.POST("/api/v1/ask/line", { body }));

/** Clauses said in words, as they are typed. */
export function useSayClauses(onRead: (read: SaidClauses, said: string) => void) {
  return useMutation({
    mutationFn: (body: { statement: Statement; text: string }) =>
      ask(client.POST("/api/v1/ask/clauses", { body })),
    onSuccess: (read, { text }) => onRead(read, text),
  });
}
