import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client, everyPage } from "./client";
import type { QuoteList, QuoteListOpened, RateQuestion, Statement } from "./types";

export const LISTS = ["quote-lists"];
export const listKey = (id: string) => ["quote-list", id];
const path = (id: string) => ({ params: { path: { list_id: id } } });

/** A quote worked, and the rate in every style. */
export function useEquivalentRates(question: RateQuestion) {
  return useQuery({
    queryKey: ["equivalent-rates", question],
    queryFn: ({ signal }) =>
      ask(client.POST("/api/v1/ask/equivalent-rates", { body: question, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
}

/** Quotes compared. */
export function useComparison(content: QuoteList) {
  return useQuery({
    queryKey: ["comparison", content],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/comparison", { body: content, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
  });
}

export function useQuoteLists() {
  return useQuery({
    queryKey: LISTS,
    queryFn: () =>
      everyPage((start) =>
        ask(client.GET("/api/v1/quote-lists", { params: { query: { start } } })),
      ),
    staleTime: 0,
  });
}

export function useQuoteList(id: string, before: () => Promise<unknown>) {
  return useQuery({
    queryKey: listKey(id),
    queryFn: async () => {
      await before();
      return getQuoteList(id);
    },
    staleTime: Infinity,
    gcTime: 0,
  });
}

/** Saves a list from the version it started from. */
export function sendQuoteList(id: string) {
  return (
    content: QuoteList,
    version: number,
    { leaving }: { leaving: boolean },
  ): Promise<QuoteListOpened> =>
    ask(
      client.PUT("/api/v1/quote-lists/{list_id}", {
        ...path(id),
        body: { content, version },
        keepalive: leaving,
      }),
    );
}

/** A new list with two quotes to be stated. */
export function startQuoteList(marks: Statement["marks"]): Promise<QuoteListOpened> {
  const blank = { marks, quotes: [{}, {}] } as unknown as QuoteList;
  return ask(client.POST("/api/v1/quote-lists", { body: blank }));
}

export async function startQuoteListFromFile(file: File, name: string) {
  const content = await file.arrayBuffer();
  return ask(
    client.POST("/api/v1/quote-lists/from-file", {
      params: { query: { name } },
      body: content as never,
      bodySerializer: (body) => body as unknown as ArrayBuffer,
      headers: { "Content-Type": "text/plain" },
    }),
  );
}

export function useDeleteQuoteList(onGone: (gone: { id: string; name: string }) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ id }: { id: string; name: string }) =>
      ask(client.DELETE("/api/v1/quote-lists/{list_id}", path(id))),
    onSuccess: (_, gone) => {
      onGone(gone);
      return queries.invalidateQueries({ queryKey: LISTS });
    },
  });
}

export const undeleteQuoteList = (id: string) =>
  ask(client.POST("/api/v1/quote-lists/{list_id}/undelete", path(id)));

export function useUndeleteQuoteList(onBack: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: undeleteQuoteList,
    onSuccess: () => {
      onBack();
      return queries.invalidateQueries({ queryKey: LISTS });
    },
  });
}

export function useQuoteListBin() {
  return useQuery({
    queryKey: ["bin", "quote-lists"],
    queryFn: () =>
      everyPage((start) =>
        ask(client.GET("/api/v1/quote-lists/bin", { params: { query: { start } } })),
      ),
    staleTime: 0,
  });
}

export const getQuoteList = (id: string): Promise<QuoteListOpened> =>
  ask(client.GET("/api/v1/quote-lists/{list_id}", path(id)));
