import { useCallback, useMemo, useRef, useState } from "react";
import type { CaseListed } from "../../api/types";

const NONE: ReadonlyMap<string, CaseListed> = new Map();

/** The cases picked in the list, in the order in which they were picked; what is looked for does
 *  not change them. At most so many. */
export function usePicked(cases: readonly CaseListed[], most: number) {
  const [picked, setPicked] = useState<ReadonlyMap<string, CaseListed>>(NONE);
  const last = useRef(0);
  /** Picks a case, or puts it back; with `through` all from the one before to it are picked. */
  const pick = useCallback(
    (place: number, through: boolean) => {
      const from = through ? last.current : place;
      last.current = place;
      const stretch = cases.slice(Math.min(from, place), Math.max(from, place) + 1);
      setPicked((now) => {
        const next = new Map(now);
        for (const each of stretch) {
          if (!through && next.delete(each.id)) continue;
          if (next.size < most) next.set(each.id, each);
        }
        return next;
      });
    },
    [cases, most],
  );
  const pickAll = useCallback(
    () => setPicked(new Map(cases.slice(0, most).map((each) => [each.id, each]))),
    [cases, most],
  );
  const drop = useCallback(
    (id: string) =>
      setPicked((now) => (now.has(id) ? new Map([...now].filter(([each]) => each !== id)) : now)),
    [],
  );
  const clear = useCallback(() => setPicked(new Map()), []);
  /** Whether any was ever picked. */
  const touched = picked !== NONE;
  return useMemo(
    () => ({ picked, touched, pick, pickAll, drop, clear }),
    [picked, touched, pick, pickAll, drop, clear],
  );
}

export type Picking = ReturnType<typeof usePicked>;
