import { useEffect, useMemo } from "react";
import type { CaseListed } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useInSight } from "../../hooks/use-in-sight";
import { useTop } from "../../hooks/use-top";
import { gridOf, thatFit } from "./columns";
import { Heads, type Sorted } from "./heads";
import { Row } from "./row";
import { useRowKeys } from "./use-row-keys";
import type { Picking } from "./use-picked";
import { t } from "../../texts";

/** How high a row is, in rem: one line, or two with the answer under the name. */
const ONE_LINE = 2.75;
const TWO_LINES = 3.75;

interface Props extends Sorted {
  cases: readonly CaseListed[];
  total: number;
  /** How wide the list is, in rem, and what one is in pixels. */
  width: number;
  rem: number;
  /** Whether more can be fetched, and the way to it. */
  hasMore: boolean;
  onMore: () => void;
  /** The pointer or the focus came to one. */
  onNear: () => void;
  picking: Picking;
  onTag: (tag: string) => void;
  onDelete: (listed: CaseListed) => void;
}

/** The cases; only what is in sight is drawn, and more is fetched when its end comes into sight. */
export function CaseList(props: Props) {
  const { cases, total, width, rem, hasMore, onMore, onNear, picking, onTag, onDelete } = props;
  const { me } = useDesk();
  const columns = useMemo(() => thatFit(me.columns, width), [me.columns, width]);
  const grid = gridOf(columns);
  const [box, offset] = useTop<HTMLDivElement>();
  const high = Math.round((columns.length ? ONE_LINE : TWO_LINES) * rem);
  const { inSight, whole, scrollTo } = useInSight(cases.length, high, offset);
  const end = inSight.at(-1)?.index ?? 0;
  useEffect(() => {
    if (hasMore && end >= cases.length - 20) onMore();
  }, [end, cases.length, hasMore, onMore]);
  const keyed = useRowKeys(cases.length, scrollTo, picking);
  const listed = cases.filter((each) => picking.picked.has(each.id)).length;
  if (cases.length === 0) return <div ref={box} />;
  return (
    <div
      role="grid"
      aria-label={t("Cases")}
      tabIndex={-1}
      aria-multiselectable
      aria-rowcount={total + 1}
      className="mt-3 overflow-hidden rounded-lg border border-rule bg-sheet"
      onPointerEnter={onNear}
      onFocus={onNear}
      onKeyDown={keyed}
    >
      {columns.length > 0 && (
        <Heads
          {...props}
          columns={columns}
          grid={grid}
          picked={listed === 0 ? "none" : listed === cases.length ? "all" : "some"}
          onPickAll={(all) => (all ? picking.pickAll() : picking.clear())}
        />
      )}
      <div ref={box} role="rowgroup" className="relative" style={{ height: whole }}>
        {inSight.map((item) => {
          const each = cases[item.index];
          return (
            each && (
              <div
                key={each.id}
                role="presentation"
                className="absolute inset-x-0"
                style={{ height: high, top: item.start }}
              >
                <Row
                  listed={each}
                  place={item.index}
                  columns={columns}
                  grid={grid}
                  isPicked={picking.picked.has(each.id)}
                  onPick={picking.pick}
                  onTag={onTag}
                  onDelete={onDelete}
                />
              </div>
            )
          );
        })}
      </div>
    </div>
  );
}
