import type { Column, Sort } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Tick } from "../../ui/tick";
import { isFigure, sorts } from "./columns";
import { t } from "../../texts";

export interface Sorted {
  sort: Sort;
  lastFirst: boolean;
  onSort: (sort: Sort, order: "up" | "down" | "") => void;
}

interface HeadProps extends Sorted {
  by: Sort;
  children: string;
  right?: boolean;
}

/** What stands over a column, by which the list is sorted; once more turns it round. */
function SortedBy({ by, children, right = false, sort, lastFirst, onSort }: HeadProps) {
  const on = by === sort;
  return (
    <span
      role="columnheader"
      aria-sort={on ? (lastFirst ? "descending" : "ascending") : "none"}
      className={right ? "text-right" : by === "name" ? "" : "pl-4"}
    >
      <Button
        look="quiet"
        className={on ? "font-semibold text-ink" : ""}
        title={on ? t("Turn it round") : t("Sort by it")}
        onClick={() => onSort(by, on ? (lastFirst ? "up" : "down") : "")}
      >
        {children}
        {on && <span aria-hidden>{lastFirst ? " ↓" : " ↑"}</span>}
      </Button>
    </span>
  );
}

interface Props extends Sorted {
  columns: readonly Column[];
  grid: string;
  /** How many of those that are listed are picked: all, some, none. */
  picked: "all" | "some" | "none";
  onPickAll: (all: boolean) => void;
}

/** What stands over the columns of the list. */
export function Heads({ columns, grid, picked, onPickAll, ...sorted }: Props) {
  const { words } = useDesk();
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="grid items-center border-b border-rule-strong py-0.5 text-sm text-soft"
      style={{ gridTemplateColumns: grid }}
    >
      <span role="columnheader" className="grid place-items-center">
        <Tick
          name={t("Pick all that are listed")}
          checked={picked === "all"}
          some={picked === "some"}
          onTick={onPickAll}
        />
      </span>
      <SortedBy {...sorted} by="name">
        {t("Case")}
      </SortedBy>
      {columns.map((column) =>
        sorts(column) ? (
          <SortedBy key={column} {...sorted} by={column as Sort} right={isFigure(column)}>
            {words.list_columns[column] ?? column}
          </SortedBy>
        ) : (
          <span key={column} role="columnheader" className="pl-4">
            {words.list_columns[column]}
          </span>
        ),
      )}
      <span role="columnheader">
        <span className="sr-only">{t("What to do")}</span>
      </span>
    </div>
  );
}
