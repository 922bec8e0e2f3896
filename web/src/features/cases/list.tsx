import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import type { CaseListed } from "../../api/types";
import { Row } from "./row";

const ROW_HEIGHT = 58;

interface Props {
  cases: readonly CaseListed[];
  /** Whether more can be fetched, and the way to it. */
  hasMore: boolean;
  onMore: () => void;
  /** What else stands above the list: it moves with that. */
  under: unknown;
  onTag: (tag: string) => void;
  onDelete: (listed: CaseListed) => void;
}

/** The cases; only what is in sight is drawn, and more is fetched when its end comes into sight. */
export function CaseList({ cases, hasMore, onMore, under, onTag, onDelete }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [offset, setOffset] = useState(0);
  useLayoutEffect(() => {
    setOffset(Math.round((box.current?.getBoundingClientRect().top ?? 0) + scrollY));
  }, [cases.length, under]);
  const virtual = useWindowVirtualizer({
    count: cases.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 10,
    scrollMargin: offset,
  });
  const shown = virtual.getVirtualItems();
  const end = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    if (hasMore && end >= cases.length - 20) onMore();
  }, [end, cases.length, hasMore, onMore]);
  return (
    <div ref={box} className="mt-3">
      {cases.length > 0 && (
        <ul
          aria-label="Cases"
          className="relative overflow-hidden rounded-lg border border-rule bg-sheet"
          style={{ height: virtual.getTotalSize() }}
        >
          {shown.map((item) => {
            const listed = cases[item.index];
            return (
              listed && (
                <li
                  key={listed.id}
                  className="absolute inset-x-0"
                  style={{ height: ROW_HEIGHT, top: item.start - offset }}
                >
                  <Row listed={listed} onTag={onTag} onDelete={onDelete} />
                </li>
              )
            );
          })}
        </ul>
      )}
    </div>
  );
}
