import { useEffect, useEffectEvent, useState } from "react";

/** A question that takes longer than so many milliseconds is dropped for a newer one. */
const LONGEST = 150;

/**
 * One question in flight: the newest value is asked as soon as the question before it is answered,
 * and what was typed in between never is. `useQuestion` asks it.
 *
 * Gives what was found, and whether it belongs to the newest value.
 */
export function useNewest<T, Q extends { isFetching: boolean; isSuccess: boolean }>(
  newest: T,
  useQuestion: (asked: T) => Q & { isPlaceholderData: boolean },
) {
  const [asked, setAsked] = useState(newest);
  const found = useQuestion(asked);
  const waits = asked !== newest;
  if (waits && !found.isFetching) setAsked(newest);
  const dropFor = useEffectEvent(() => setAsked(newest));
  useEffect(() => {
    if (!waits) return;
    const timer = setTimeout(dropFor, LONGEST);
    return () => clearTimeout(timer);
  }, [waits, asked]);
  return { found, current: !waits && found.isSuccess && !found.isPlaceholderData };
}
