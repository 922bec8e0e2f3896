import { useCallback, useSyncExternalStore, type RefObject } from "react";

/** Lines drawn above and below those in sight. */
const BESIDE = 10;

/** Where one looks: what scrolls, how far down and how high it is. */
interface View {
  watch: (moved: () => void) => () => void;
  scrolled: () => number;
  high: () => number;
  scrollTo: (top: number) => void;
}

const WINDOW: View = {
  watch: (moved) => {
    addEventListener("scroll", moved, { passive: true });
    addEventListener("resize", moved);
    return () => {
      removeEventListener("scroll", moved);
      removeEventListener("resize", moved);
    };
  },
  scrolled: () => scrollY,
  high: () => innerHeight,
  scrollTo: (top) => scrollTo({ top }),
};

/** Of so many lines, all as high and the first `top` pixels down the page, those in sight. */
export function useInSight(count: number, height: number, top: number) {
  return useLines(WINDOW, count, height, top);
}

/** The same of lines that scroll in a box. */
export function useInSightOf(box: RefObject<HTMLElement | null>, count: number, height: number) {
  const watch = useCallback(
    (moved: () => void) => {
      const scrolls = box.current;
      if (!scrolls) return () => undefined;
      scrolls.addEventListener("scroll", moved, { passive: true });
      const observer = new ResizeObserver(moved);
      observer.observe(scrolls);
      return () => {
        scrolls.removeEventListener("scroll", moved);
        observer.disconnect();
      };
    },
    [box],
  );
  const view = {
    watch,
    scrolled: () => box.current?.scrollTop ?? 0,
    high: () => box.current?.clientHeight ?? 0,
    scrollTo: (top: number) => box.current?.scrollTo({ top }),
  };
  return useLines(view, count, height, 0);
}

/** The lines in sight, how high all are, and the way to one of them. Only a line that comes into
 *  sight, or goes, renders anything. */
function useLines(view: View, count: number, height: number, top: number) {
  const above = useSyncExternalStore(view.watch, () =>
    Math.floor((view.scrolled() - top) / height),
  );
  const room = useSyncExternalStore(view.watch, () => Math.ceil(view.high() / height));
  const first = Math.max(0, Math.min(above, count) - BESIDE);
  const after = Math.max(0, Math.min(count, above + room + 1 + BESIDE));
  return {
    inSight: Array.from({ length: Math.max(0, after - first) }, (_, place) => ({
      index: first + place,
      start: (first + place) * height,
    })),
    whole: count * height,
    /** Brings a line into the middle. */
    scrollTo: (line: number) => view.scrollTo(top + (line + 0.5) * height - view.high() / 2),
  };
}
