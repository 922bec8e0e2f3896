import {
  getCoreRowModel,
  getExpandedRowModel,
  useReactTable,
  type ColumnDef,
  type ExpandedState,
  type Row,
} from "@tanstack/react-table";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Answer } from "../api/client";
import { inMarks } from "../ui/numbers";
import { useDesk } from "../ui/settings";

type Year = Answer["by_year"][number];
type Payment = Answer["schedule"][number];
type Line = { year: Year; payments: Payment[] } | { payment: Payment };

const MONEY = ["opening", "interest", "principal", "payment", "closing"] as const;
const HEADS: Record<(typeof MONEY)[number], string> = {
  opening: "Opening balance",
  interest: "Interest",
  principal: "Principal",
  payment: "Payment",
  closing: "Closing balance",
};
const COLUMNS: ColumnDef<Line>[] = [{ id: "number" }, ...MONEY.map((id) => ({ id }))];
const ROW_HEIGHT = 30;
const GRID =
  "grid grid-cols-[9.5rem_repeat(5,minmax(6.5rem,1fr))] min-w-[46rem] sm:min-w-0 items-center px-4";

function linesOf(answer: Answer): Line[] {
  return answer.by_year.map((year) => ({
    year,
    payments: answer.schedule.slice(year.first - 1, year.last),
  }));
}

function YearCell({ row, year }: { row: Row<Line>; year: Year }) {
  const open = row.getIsExpanded();
  return (
    <button
      className="text-left font-semibold whitespace-nowrap"
      aria-expanded={open}
      onClick={row.getToggleExpandedHandler()}
    >
      <span aria-hidden className="inline-block w-4">
        {open ? "▾" : "▸"}
      </span>
      Year {year.year}{" "}
      <span className="ml-1 text-sm font-normal text-soft">
        {year.first === year.last ? year.first : `${year.first}–${year.last}`}
      </span>
    </button>
  );
}

/** Every payment to the cent, folded by year; only what is in sight is drawn. */
export function Schedule({ answer }: { answer: Answer }) {
  const { marks } = useDesk();
  const data = useMemo(() => linesOf(answer), [answer]);
  const [expanded, setExpanded] = useState<ExpandedState>({ 0: true });
  const table = useReactTable({
    data,
    columns: COLUMNS,
    state: { expanded },
    onExpandedChange: setExpanded,
    getSubRows: (line) =>
      "year" in line ? line.payments.map((payment) => ({ payment })) : undefined,
    getCoreRowModel: getCoreRowModel(),
    getExpandedRowModel: getExpandedRowModel(),
    autoResetExpanded: false,
  });
  const rows = table.getRowModel().rows;
  const body = useRef<HTMLDivElement>(null);
  const [offset, setOffset] = useState(0);
  useLayoutEffect(() => {
    const top = (body.current?.getBoundingClientRect().top ?? 0) + scrollY;
    setOffset(Math.round(top));
  }, [answer]);
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 20,
    scrollMargin: offset,
  });
  const all = table.getIsAllRowsExpanded();

  return (
    <section id="schedule" aria-label="Schedule" className="mt-4">
      <div className="flex items-baseline justify-between pb-1 text-sm">
        <h2 className="font-semibold">The schedule</h2>
        <button className="text-choice underline" onClick={() => table.toggleAllRowsExpanded(!all)}>
          {all ? "Fold all years" : "Unfold all years"}
        </button>
      </div>
      <div
        role="table"
        aria-label="Schedule of payments"
        aria-rowcount={rows.length + 1}
        className="overflow-x-auto rounded-lg border border-rule bg-sheet sm:overflow-x-visible"
      >
        <div role="rowgroup" className="sm:sticky sm:top-0 sm:z-10">
          <div role="row" className={`${GRID} rounded-t-lg border-b border-ink bg-sheet py-1.5`}>
            <div role="columnheader" className="text-sm text-soft">
              Payment no.
            </div>
            {MONEY.map((id) => (
              <div role="columnheader" key={id} className="text-right text-sm text-soft">
                {HEADS[id]}
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
            if (!row) return null;
            const line = row.original;
            const money = "year" in line ? line.year : line.payment;
            return (
              <div
                role="row"
                aria-rowindex={item.index + 2}
                key={row.id}
                className={`${GRID} absolute inset-x-0 border-b border-rule ${"year" in line ? "bg-paper font-semibold" : ""}`}
                style={{ height: ROW_HEIGHT, top: item.start - offset }}
              >
                <div role="cell">
                  {"year" in line ? (
                    <YearCell row={row} year={line.year} />
                  ) : (
                    <span className="pl-4 text-soft">{line.payment.number}</span>
                  )}
                </div>
                {MONEY.map((id) => (
                  <div role="cell" key={id} className="truncate text-right">
                    {inMarks(money[id], marks)}
                  </div>
                ))}
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}
