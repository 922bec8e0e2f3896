import {
  getCoreRowModel,
  getExpandedRowModel,
  useReactTable,
  type ColumnDef,
  type ExpandedState,
  type Row,
} from "@tanstack/react-table";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { DropdownMenu } from "radix-ui";
import { useLayoutEffect, useMemo, useRef, useState } from "react";
import { ask, client, type Answer, type MarksWord, type Statement } from "../../api/client";
import { Choice } from "../../ui/choice";
import { day } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";

type Year = Answer["by_year"][number];
type Payment = Answer["schedule"][number];
type Line = { year: Year; payments: Payment[] } | { payment: Payment } | { balloon: string };

/** Columns that stand only where clauses have such. */
const MORE = ["advance", "fee", "repay"] as const;
type Money = "opening" | "interest" | "principal" | "payment" | "closing";
type Column = "date" | "carrying" | Money | (typeof MORE)[number];
const HEADS: Record<Column, string> = {
  date: "Due",
  opening: "Opening balance",
  interest: "Interest",
  principal: "Principal",
  payment: "Payment",
  closing: "Closing balance",
  advance: "Lent",
  fee: "Fee added",
  repay: "Repaid on top",
  carrying: "Carrying amount",
};
const ROW_HEIGHT = 30;
const KEPT_COLUMNS = "zephyrant-columns";
const KEPT_YEARS = "zephyrant-years";
const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];

/** The month in which the years of a schedule start, as chosen last; null: years of the loan. */
export function useYears() {
  const [starts, setStarts] = useState<number | null>(() => {
    const kept = Number(localStorage.getItem(KEPT_YEARS));
    return kept >= 1 && kept <= 12 ? kept : null;
  });
  const choose = (month: number | null) => {
    localStorage.setItem(KEPT_YEARS, String(month ?? ""));
    setStarts(month);
  };
  return [starts, choose] as const;
}

/** The columns a schedule has something to say in. */
function columnsOf(answer: Answer): Column[] {
  const first = answer.schedule[0];
  const more = MORE.filter((column) => first?.[column] !== undefined);
  const lent = more.filter((column) => column !== "repay");
  return [
    ...(first?.date ? (["date"] as const) : []),
    "opening",
    ...lent,
    "interest",
    "principal",
    "payment",
    ...(more.includes("repay") ? (["repay"] as const) : []),
    "closing",
    ...(answer.carrying.length ? (["carrying"] as const) : []),
  ];
}

function useColumns(all: readonly Column[]) {
  const [hidden, setHidden] = useState<readonly string[]>(() =>
    (localStorage.getItem(KEPT_COLUMNS) ?? "").split(" ").filter(Boolean),
  );
  const toggle = (column: Column) => {
    const next = hidden.includes(column)
      ? hidden.filter((each) => each !== column)
      : [...hidden, column];
    localStorage.setItem(KEPT_COLUMNS, next.join(" "));
    setHidden(next);
  };
  return { all, shown: all.filter((column) => !hidden.includes(column)), toggle };
}

function linesOf(answer: Answer): Line[] {
  const lines: Line[] = answer.by_year.map((year) => ({
    year,
    payments: answer.schedule.filter(
      (payment) => year.first <= payment.number && payment.number <= year.last,
    ),
  }));
  const left = answer.schedule.at(-1)?.closing ?? "0";
  return /[1-9]/.test(left) ? [...lines, { balloon: left }] : lines;
}

/** The visible columns as tab-separated text, every payment a line. */
function asText(answer: Answer, columns: readonly Column[], marks: MarksWord): string {
  const ungrouped = { ...marks, group: "" };
  const cell = (payment: Payment, column: Column, place: number) =>
    column === "date"
      ? (payment.date ?? "")
      : inMarks(
          (column === "carrying" ? answer.carrying[place] : payment[column]) ?? "",
          ungrouped,
        );
  const head = ["Payment no.", ...columns.map((column) => HEADS[column])];
  const rows = answer.schedule.map((payment, place) => [
    String(payment.number),
    ...columns.map((column) => cell(payment, column, place)),
  ]);
  return [head, ...rows].map((row) => row.join("\t")).join("\n");
}

function YearCell({ row, year, calendar }: { row: Row<Line>; year: Year; calendar: boolean }) {
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
      {calendar ? year.label : `Year ${year.label}`}{" "}
      <span className="ml-1 text-sm font-normal text-soft">
        {year.first === year.last ? year.first : `${year.first}–${year.last}`}
      </span>
    </button>
  );
}

function ColumnsMenu({ columns }: { columns: ReturnType<typeof useColumns> }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="text-choice underline decoration-dotted underline-offset-[0.3em]">
        Columns
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-50 min-w-44 rounded-md border border-rule bg-sheet py-1 text-ink shadow-xl"
        >
          {columns.all.map((column) => (
            <DropdownMenu.CheckboxItem
              key={column}
              checked={columns.shown.includes(column)}
              onCheckedChange={() => columns.toggle(column)}
              onSelect={(event) => event.preventDefault()}
              className="flex cursor-pointer gap-2 px-3 py-1 outline-none data-highlighted:bg-paper"
            >
              <span aria-hidden className="w-3 text-choice">
                {columns.shown.includes(column) ? "✓" : ""}
              </span>
              {HEADS[column]}
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Goes to a payment by its number, or to the last one before a day. */
function Jump({ statement, onJump }: { statement: Statement; onJump: (number: number) => void }) {
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState("");
  const go = async () => {
    setWrong("");
    if (!typed.trim()) return;
    try {
      const body = { statement, at: typed, payoff: "nearest" as const };
      const [found] = await ask(client.POST("/api/v1/ask/balance-at", { body }));
      if (found) onJump(Math.max(1, found.number));
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <form
      className="flex items-baseline gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      {wrong && (
        <span role="alert" className="text-wrong">
          {wrong}
        </span>
      )}
      <input
        id="schedule-jump"
        aria-label="Go to a payment or a day"
        placeholder={statement.start ? "Go to 31 or a day" : "Go to a payment"}
        value={typed}
        maxLength={40}
        className="w-36 rounded border border-rule-strong bg-sheet px-2 py-0.5 placeholder:text-soft"
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Escape") event.currentTarget.blur();
        }}
      />
    </form>
  );
}

interface Props {
  answer: Answer;
  statement: Statement;
  marked: readonly [number, number] | null;
  years: ReturnType<typeof useYears>;
}

/** Every payment to the cent, folded by year; only what is in sight is drawn. */
export function Schedule({ answer, statement, marked, years }: Props) {
  const { marks } = useDesk();
  const dated = Boolean(answer.schedule[0]?.date);
  const columns = useColumns(columnsOf(answer));
  const [starts, chooseStarts] = years;
  const calendar = dated && starts !== null;
  const data = useMemo(() => linesOf(answer), [answer]);
  const [expanded, setExpanded] = useState<ExpandedState>({ 0: true });
  const [gone, setGone] = useState<number | null>(null);
  const [copied, setCopied] = useState(false);
  const definitions = useMemo<ColumnDef<Line>[]>(() => [{ id: "number" }], []);
  const table = useReactTable({
    data,
    columns: definitions,
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
  }, [answer, marked]);
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 20,
    scrollMargin: offset,
  });
  const all = table.getIsAllRowsExpanded();

  const jump = (number: number) => {
    const place = answer.by_year.findIndex((year) => year.first <= number && number <= year.last);
    setExpanded((now) => (now === true ? true : { ...now, [place]: true }));
    setGone(number);
    // Once the year is unfolded its rows have their places.
    setTimeout(() => {
      const index = table
        .getRowModel()
        .rows.findIndex(
          (row) => "payment" in row.original && row.original.payment.number === number,
        );
      if (index >= 0) virtual.scrollToIndex(index, { align: "center" });
    }, 30);
  };
  const copy = async () => {
    await navigator.clipboard.writeText(asText(answer, columns.shown, marks));
    setCopied(true);
    setTimeout(() => setCopied(false), 2_000);
  };
  const grid = {
    gridTemplateColumns: `9.5rem ${columns.shown
      .map((column) => (column === "date" ? "8rem" : "minmax(6.5rem,1fr)"))
      .join(" ")}`,
  };
  const GRID = "grid min-w-[46rem] items-center px-4 sm:min-w-0";

  return (
    <section id="schedule" aria-label="Schedule" className="mt-4">
      <div className="flex flex-wrap items-baseline justify-end gap-x-5 gap-y-1 pb-1 text-sm">
        <h2 className="mr-auto font-semibold">The schedule</h2>
        <Jump statement={statement} onJump={jump} />
        {dated && (
          <Choice
            name="Grouped by"
            value={String(starts ?? "")}
            shown={
              starts === null
                ? "by year of the loan"
                : starts === 1
                  ? "by calendar year"
                  : `by years from ${MONTHS[starts - 1]}`
            }
            options={[
              { value: "", label: "by year of the loan" },
              { value: "1", label: "by calendar year" },
              ...MONTHS.slice(1).map((month, place) => ({
                value: String(place + 2),
                label: `by years from ${month}`,
                ...(place === 0 ? { under: "Financial years" } : {}),
              })),
            ]}
            onChoose={(value) => chooseStarts(value ? Number(value) : null)}
          />
        )}
        <ColumnsMenu columns={columns} />
        <button className="text-choice underline" onClick={() => void copy()}>
          {copied ? "Copied" : "Copy"}
        </button>
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
          <div
            role="row"
            className={`${GRID} rounded-t-lg border-b border-ink bg-sheet py-1.5`}
            style={grid}
          >
            <div role="columnheader" className="text-sm text-soft">
              Payment no.
            </div>
            {columns.shown.map((id) => (
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
            return (
              <ScheduleRow
                key={row.id}
                row={row}
                index={item.index}
                columns={columns.shown}
                calendar={calendar}
                marks={marks}
                marked={marked}
                gone={gone}
                carrying={answer.carrying}
                className={`${GRID} absolute inset-x-0 border-b border-rule`}
                style={{ ...grid, height: ROW_HEIGHT, top: item.start - offset }}
              />
            );
          })}
        </div>
      </div>
    </section>
  );
}

/** What stands in a column; years tell only what they add up to. */
function told(
  line: Exclude<Line, { balloon: string }>,
  column: Exclude<Column, "date">,
  carrying: readonly string[],
): string {
  if ("year" in line) {
    const year: Record<string, string | number> = line.year;
    return String(year[column] ?? "");
  }
  if (column === "carrying") return carrying[line.payment.number - 1] ?? "";
  return line.payment[column] ?? "";
}

interface RowProps {
  row: Row<Line>;
  index: number;
  columns: readonly Column[];
  calendar: boolean;
  marks: MarksWord;
  marked: readonly [number, number] | null;
  gone: number | null;
  carrying: readonly string[];
  className: string;
  style: React.CSSProperties;
}

function ScheduleRow({
  row,
  index,
  columns,
  calendar,
  marks,
  marked,
  gone,
  carrying,
  ...look
}: RowProps) {
  const line = row.original;
  const common = { role: "row", "aria-rowindex": index + 2, style: look.style };
  if ("balloon" in line)
    return (
      <div {...common} className={`${look.className} bg-paper font-semibold`}>
        <div role="cell" style={{ gridColumn: `1 / ${columns.length + 1}` }}>
          <span className="pl-4">
            {Number(line.balloon) < 0
              ? "Overpaid, to be given back"
              : "Balloon, still owed at the end"}
          </span>
        </div>
        <div role="cell" className="text-right">
          {inMarks(line.balloon, marks)}
        </div>
      </div>
    );
  const number = "payment" in line ? line.payment.number : 0;
  const inside = marked !== null && marked[0] <= number && number <= marked[1];
  const tone = "year" in line ? "bg-paper font-semibold" : inside ? "bg-choice/10" : "";
  return (
    <div
      {...common}
      className={`${look.className} ${tone} ${number === gone && number ? "outline-2 -outline-offset-2 outline-focus" : ""}`}
    >
      <div role="cell">
        {"year" in line ? (
          <YearCell row={row} year={line.year} calendar={calendar} />
        ) : (
          <span className="pl-4 text-soft">{number}</span>
        )}
      </div>
      {columns.map((id) => (
        <div role="cell" key={id} className="truncate text-right">
          {id === "date"
            ? "payment" in line && line.payment.date && day(line.payment.date)
            : inMarks(told(line, id, carrying), marks)}
        </div>
      ))}
    </div>
  );
}
