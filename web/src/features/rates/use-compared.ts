import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { ask, client, type Comparison, type QuoteList } from "../../api/client";
import { useSettled } from "../../hooks/use-settled";

const PAUSE = 90;

/** Quotes compared by the server, following every keystroke. */
export function useCompared(content: QuoteList) {
  const settled = useSettled(content, PAUSE);
  const query = useQuery({
    queryKey: ["compared", settled],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/comparison", { body: settled, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
  });
  const found: Comparison | undefined = query.data;
  return {
    found,
    /** Whether what was found belongs to the quotes as they stand. */
    current: settled === content && query.isSuccess && !query.isPlaceholderData,
    failed: query.error,
  };
}
