import { useComparison } from "../../api/quotes";
import type { QuoteList } from "../../api/types";
import { useSettled } from "../../hooks/use-settled";

const PAUSE = 90;

/** Quotes compared by the server, following every keystroke. */
export function useCompared(content: QuoteList) {
  const settled = useSettled(content, PAUSE);
  const query = useComparison(settled);
  return {
    found: query.data,
    /** Whether what was found belongs to the quotes as they stand. */
    current: settled === content && query.isSuccess && !query.isPlaceholderData,
    failed: query.error,
  };
}
