import { useComparison } from "../../api/quotes";
import type { QuoteList } from "../../api/types";
import { useNewest } from "../../hooks/use-newest";

/** Quotes compared by the server, following every keystroke. */
export function useCompared(content: QuoteList) {
  const { found: query, current } = useNewest(content, useComparison);
  return {
    found: query.data,
    /** Whether what was found belongs to the quotes as they stand. */
    current,
    failed: query.error,
  };
}
