import { useEffect } from "react";
import type { CaseListed } from "../../api/types";
import { useInSight } from "../../hooks/use-in-sight";
import { useTop } from "../../hooks/use-top";
import { Row } from "./row";

const ROW_HEIGHT = 58;

interface Props {
  cases: readonly CaseListed[];
  /** Whether more can be fetched, and the way to it. */
  hasMore: boolean;
  onMore: () => void;
  /** The pointer or the focus came to one. */
  onNear: () => void;
  onTag: (tag: string) => void;
  onDelete: (listed: CaseListed) => void;
}

/** The cases; only what is in sight is drawn, and more is fetched when its end comes into sight. */
export function CaseList({ cases, hasMore, onMore, onNear, onTag, onDelete }: Props) {
  const [box, offset] = useTop<HTMLDivElement>();
  const { inSight, whole } = useInSight(cases.length, ROW_HEIGHT, offset);
  const end = inSight.at(-1)?.index ?? 0;
  useEffect(() => {
    if (hasMore && end >= cases.length - 20) onMore();
  }, [end, cases.length, hasMore, onMore]);
  return (
    <div ref={box} className="mt-3" onPointerEnter={onNear} onFocus={onNear}>
      {cases.length > 0 && (
        <ul
          aria-label="Cases"
          className="relative overflow-hidden rounded-lg border border-rule bg-sheet"
          style={{ height: whole }}
        >
          {inSight.map((item) => {
            const listed = cases[item.index];
            return (
              listed && (
                <li
                  key={listed.id}
                  className="absolute inset-x-0"
                  style={{ height: ROW_HEIGHT, top: item.start }}
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
