import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import type { CaseListed, Column } from "../../api/types";
import { askCaseAhead, useCopyCase } from "../../hooks/use-opened";
import { Button } from "../../ui/button";
import { Menu } from "../../ui/menu";
import { useDays } from "../../ui/moment";
import { Tick } from "../../ui/tick";
import { isFigure } from "./columns";
import { InUnit } from "../../ui/in-unit";
import { t } from "../../texts";

interface Props {
  listed: CaseListed;
  place: number;
  /** The columns that stand; none: the answer stands under the name. */
  columns: readonly Column[];
  grid: string;
  isPicked: boolean;
  onPick: (place: number, through: boolean) => void;
  onTag: (tag: string) => void;
  onDelete: (listed: CaseListed) => void;
}

/** What was found; `whole`: with how its rate is quoted. */
function Found({ found, whole = false }: Pick<CaseListed, "found"> & { whole?: boolean }) {
  if (!found) return <span className="text-sm text-soft">{t("not whole yet")}</span>;
  const { value, unit, says } = found;
  return (
    <span title={says}>
      <InUnit unit={unit} said={<span className="text-sm text-soft">{unit}</span>}>
        {value !== null && <b>{value}</b>}
      </InUnit>{" "}
      <span className="text-sm text-soft">{(whole || value === null) && says}</span>
    </span>
  );
}

/** The first of its tags, and how many more there are. */
function Tags({ tags, onTag }: { tags: readonly string[]; onTag: (tag: string) => void }) {
  const [first, ...more] = tags;
  if (first === undefined) return null;
  return (
    <span className="relative z-10 flex items-center gap-1">
      <Button
        look="bare"
        className="truncate rounded-full border border-rule bg-sheet px-2 text-soft hover:text-ink"
        onClick={() => onTag(first)}
      >
        {first}
      </Button>
      {more.length > 0 && <span title={more.join(", ")}>+{more.length}</span>}
    </span>
  );
}

function Cell({ column, listed, onTag }: Pick<Props, "listed" | "onTag"> & { column: Column }) {
  const { moment } = useDays();
  const { figures, found } = listed;
  switch (column) {
    case "amount":
    case "payment":
      return (
        figures[column] && (
          <>
            <InUnit
              unit={listed.currency}
              said={<span className="text-sm text-soft">{listed.currency}</span>}
            >
              {figures[column]}
            </InUnit>
          </>
        )
      );
    case "rate":
      return <span title={figures.quote}>{figures.rate}</span>;
    case "effective":
    case "term":
      return <span title={figures[column]}>{figures[column]}</span>;
    case "asked":
      return found?.asked;
    case "answer":
      return <Found found={found} />;
    case "tags":
      return <Tags tags={listed.tags} onTag={onTag} />;
    case "created":
      return moment(listed.created_at);
    case "changed":
      return moment(listed.changed_at);
  }
}

const SMALL: readonly Column[] = ["asked", "tags", "created", "changed"];

/** How a cell of a column looks: figures stand to the right, words may go on in a second line. */
function look(column: Column): string {
  const side = isFigure(column) ? "text-right truncate" : "line-clamp-2 leading-tight";
  return `pl-4 ${side} ${SMALL.includes(column) ? "text-sm text-soft" : ""}`;
}

/** A case in the list. */
export function Row(props: Props) {
  const { listed, place, columns, grid, isPicked, onPick, onTag, onDelete } = props;
  const queries = useQueryClient();
  const copy = useCopyCase();
  const name = listed.called;
  const standing = listed.standing && (
    <span className="mx-2 text-sm text-choice">{listed.standing}</span>
  );
  const actions = [
    { label: t("Copy"), run: () => copy.mutate(listed.id) },
    { label: t("Export as a document"), href: `/api/v1/cases/${listed.id}/document` },
    ...(listed.owner ? [] : [{ label: t("Delete"), run: () => onDelete(listed) }]),
  ];
  return (
    <div
      role="row"
      aria-rowindex={place + 2}
      aria-selected={isPicked}
      className={`relative grid h-full items-center border-b border-rule ${isPicked ? "bg-owed-fill" : "hover:bg-paper"}`}
      style={{ gridTemplateColumns: grid }}
    >
      <span role="gridcell" className="relative z-10 grid h-full place-items-center">
        <Tick
          name={t("Pick {name}", { name })}
          checked={isPicked}
          onTick={(_, withShift) => onPick(place, withShift)}
        />
      </span>
      <span role="rowheader" className="line-clamp-2 min-w-0 leading-tight">
        <Link
          to={`/cases/${listed.id}`}
          data-row={place}
          onClick={(event) => {
            // In another tab it is not opened here.
            if (!event.ctrlKey && !event.metaKey && !event.shiftKey)
              askCaseAhead(queries, listed.id);
          }}
          className="font-serif text-[1.05rem] font-semibold after:absolute after:inset-0"
        >
          {name}
        </Link>
        {listed.owner && <span className="ml-2 text-sm text-soft">{listed.owner}</span>}
        {columns.length > 0 && standing}
        {columns.length === 0 && (
          <span className="block truncate">
            {standing}
            <Found found={listed.found} whole />
          </span>
        )}
      </span>
      {columns.map((column) => (
        <span key={column} role="gridcell" className={look(column)}>
          <Cell column={column} listed={listed} onTag={onTag} />
        </span>
      ))}
      <span role="gridcell" className="relative z-10 text-center text-soft">
        <Menu name={t("What to do with {name}", { name })} actions={actions}>
          ⋯
        </Menu>
      </span>
    </div>
  );
}
