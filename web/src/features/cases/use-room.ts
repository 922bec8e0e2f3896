import { useWidth } from "../../hooks/use-width";

/** What stands beside a page, in pixels, and how wide that is at most, before both are measured. */
const BESIDE = 64;
const WIDEST = 1280;
const REM = 16;

/** How wide a list may be, in rem, and what one is, in pixels, of two elements: one as wide as the
 *  list, one of one rem. What stands there first is a guess. */
export function useRoom() {
  const [room, measured] = useWidth<HTMLDivElement>();
  const [one, measuredRem] = useWidth<HTMLDivElement>();
  const rem = measuredRem || REM;
  return { room, one, rem, width: (measured || Math.min(innerWidth, WIDEST) - BESIDE) / rem };
}
