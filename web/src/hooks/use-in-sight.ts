import { useVirtualizer, useWindowVirtualizer, type Virtualizer } from "@tanstack/react-virtual";
import type { RefObject } from "react";

/** Lines drawn above and below those in sight. */
const BESIDE = 10;

// What these tell changes while it stays the same object: the compiler must not remember it.

/** Of so many lines, all as high and the first `top` pixels down the page, those in sight. */
export function useInSight(count: number, height: number, top: number) {
  "use no memo";
  const lines = useWindowVirtualizer({
    count,
    estimateSize: () => height,
    overscan: BESIDE,
    scrollMargin: top,
  });
  return told(lines);
}

/** The same of lines that scroll in a box. */
export function useInSightOf(box: RefObject<HTMLElement | null>, count: number, height: number) {
  "use no memo";
  const lines = useVirtualizer({
    count,
    getScrollElement: () => box.current,
    estimateSize: () => height,
    overscan: BESIDE,
  });
  return told(lines);
}

/** The lines in sight, how high all are, and the way to one of them. */
function told<B extends Element | Window>(lines: Virtualizer<B, Element>) {
  return {
    inSight: lines.getVirtualItems(),
    whole: lines.getTotalSize(),
    scrollTo: (line: number) => lines.scrollToIndex(line, { align: "center" }),
  };
}
