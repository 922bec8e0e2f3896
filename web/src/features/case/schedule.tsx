import {
  getCoreRowModel,
  getExpandedRowModel,
  useReactTable,
  type ColumnDef,
  type ExpandedState,
} from "@tanstack/react-table";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { asText, linesOf, useColumns, type Line } from "./schedule-lines";
import { ScheduleRow } from "./schedule-row";
import { ColumnsMenu, GroupedBy, Jump } from "./schedule-tools";
import type { LaidOut } from "./use-worked";
import type { Years } from "./use-years";

const ROW_HEIGHT = 30;
const GRID = "grid min-w-[46rem] items-center px-4 sm:min-w-0";
const COLUMNS: ColumnDef<Line>[] = [{ id: "number" }];

interface Props {
  good: LaidOut;
  statement: Statement;
  marked: readonly [number, number] | null;
  years: Years;
}

/** The lines that can be seen: years, and the payments of those that are unfolded. */
function useFolded(good: LaidOut) {
  const { answer, told, schedule } = good;
  const data = useMemo(
    () => linesOf(answer.by_year, schedule, told.left),
    [answer, schedule, told.left],
  );
  const [expanded, setExpanded] = useState<ExpandedState>({ 0: true });
  const table = useReactTable({
    data,
    columns: COLUMNS,
    state: { expanded },
    onExpandedChange: setExpanded,
    getSubRows: (line) => ("year" in line ? line.places.map((place) => ({ place })) : undefined),
    getCoreRowModel: getCoreRowModel(),
    getExpandedRowModel: getExpandedRowModel(),
    autoResetExpanded: false,
  });
  const unfold = (year: number) =>
    setExpanded((now) => (now === true ? true : { ...now, [year]: true }));
  return { table, unfold };
}

/** Every payment to the cent, folded by year; only what is in sight is drawn. */
export function Schedule({ good, statement, marked, years }: Props) {
  const { marks, words } = useDesk();
  const { answer, told, schedule } = good;
  const dated = told.columns.includes("date");
  const columns = useColumns(told.columns);
  const { table, unfold } = useFolded(good);
  const [gone, setGone] = useState<number | null>(null);
  const [copied, setCopied] = useState(false);
  const rows = table.getRowModel().rows;
  const body = useRef<HTMLDivElement>(null);
  const [offset, setOffset] = useState(0);
  useLayoutEffect(() => {
    const top = (body.current?.getBoundingClientRect().top ?? 0) + scrollY;
    setOffset(Math.round(top));
  }, [answer, marked]);
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 20,
    scrollMargin: offset,
  });
  const all = table.getIsAllRowsExpanded();

  const jump = (number: number) => {
    unfold(answer.by_year.findIndex((year) => year.first <= number && number <= year.last));
    setGone(number);
    // Once the year is unfolded its rows have their places.
    setTimeout(() => {
      const index = table
        .getRowModel()
        .rows.findIndex(
          (row) => "place" in row.original && schedule.number[row.original.place] === number,
        );
      if (index >= 0) virtual.scrollToIndex(index, { align: "center" });
    }, 30);
  };
  const copy = async () => {
    await navigator.clipboard.writeText(asText(schedule, columns.shown, words, marks));
    setCopied(true);
    setTimeout(() => setCopied(false), 2_000);
  };
  const grid = {
    gridTemplateColumns: `9.5rem ${columns.shown
      .map((column) => (column === "date" ? "8rem" : "minmax(6.5rem,1fr)"))
      .join(" ")}`,
  };

  return (
    <section id="schedule" aria-label="Schedule" className="mt-4">
      <div className="flex flex-wrap items-baseline justify-end gap-x-5 gap-y-1 pb-1 text-sm">
        <h2 className="mr-auto font-semibold">The schedule</h2>
        <Jump statement={statement} onJump={jump} />
        {dated && <GroupedBy years={years} />}
        <ColumnsMenu columns={columns} />
        <Button look="link" onClick={() => void copy()}>
          {copied ? "Copied" : "Copy"}
        </Button>
        <Button look="link" onClick={() => table.toggleAllRowsExpanded(!all)}>
          {all ? "Fold all years" : "Unfold all years"}
        </Button>
      </div>
      <div
        role="table"
        aria-label="Schedule of payments"
        aria-rowcount={rows.length + 1}
        className="overflow-x-auto rounded-lg border border-rule bg-sheet sm:overflow-x-visible"
      >
        <div role="rowgroup" className="sm:sticky sm:top-0 sm:z-10">
          <div
            role="row"
            className={`${GRID} rounded-t-lg border-b border-ink bg-sheet py-1.5`}
            style={grid}
          >
            {["number", ...columns.shown].map((id, place) => (
              <div
                role="columnheader"
                key={id}
                className={`text-sm text-soft ${place ? "text-right" : ""}`}
              >
                {words.columns[id]}
              </div>
            ))}
          </div>
        </div>
        <div
          role="rowgroup"
          ref={body}
          className="relative min-w-[46rem] sm:min-w-0"
          style={{ height: virtual.getTotalSize() }}
        >
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index];
            return (
              row && (
                <ScheduleRow
                  key={row.id}
                  row={row}
                  index={item.index}
                  columns={columns.shown}
                  calendar={dated && years[0] !== null}
                  marked={marked}
                  gone={gone}
                  schedule={schedule}
                  className={`${GRID} absolute inset-x-0 border-b border-rule`}
                  style={{ ...grid, height: ROW_HEIGHT, top: item.start - offset }}
                />
              )
            );
          })}
        </div>
      </div>
    </section>
  );
}
