import { keepPreviousData, useMutation, useQueries, useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef, useState } from "react";
import { ask, client, type Summary, type TableOpened } from "../../api/client";
import { Menu } from "../../ui/menu";
import { inMarks, rounded, trimmed } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { Taking, useTaking } from "../../ui/taking";
import { useOpened } from "../../ui/start";
import { useSettled } from "../../hooks/use-settled";
import { RESULTS, UNKNOWNS } from "./names";

const BLOCK = 100;
const ROW_HEIGHT = 32;
const WIDE = 150;
const CASE_WIDE = 70;
const WIDTHS: Record<string, number> = { row: 70, percent: 110, count: 110, problem: 420 };
const ANSWER = ["unknown", "found"];
const FIGURES = ["principal", "percent", "count", "payment", "balance"];
const OFTEN = [...ANSWER, ...FIGURES, "effective", "total_interest", "final_payment", "eu_aprc"];
const WORDS = ["row", "unknown", "problem", "outlier", "fits"];

type Row = Record<string, string | number | null>;
type Only = "all" | "problems" | "unfit" | "outliers";

function Bars({ name, bins }: { name: string; bins: Summary["spread"][string] }) {
  const { marks } = useDesk();
  const most = Math.max(...bins.map((bin) => bin.rows), 1);
  const [first, last] = [bins[0], bins.at(-1)];
  if (!first || !last) return null;
  const shown = (value: number) => inMarks(value.toFixed(name === "count" ? 0 : 2), marks);
  const fullest = bins.reduce((one, bin) => (bin.rows > one.rows ? bin : one), first);
  return (
    <figure className="min-w-56 grow">
      <figcaption className="text-sm text-soft">{RESULTS[name]}</figcaption>
      <svg
        viewBox={`0 0 ${bins.length * 10} 60`}
        preserveAspectRatio="none"
        role="img"
        className="block h-16 w-full"
        aria-label={`${RESULTS[name]}: from ${shown(first.low)} to ${shown(last.high)}, most rows between ${shown(fullest.low)} and ${shown(fullest.high)}`}
      >
        {bins.map((bin, place) => {
          const tall = (bin.rows / most) * 58;
          return (
            <rect
              key={bin.low}
              x={place * 10 + 0.5}
              width={9}
              y={60 - tall}
              height={tall}
              fill="var(--principal)"
            />
          );
        })}
      </svg>
      <p className="flex justify-between text-sm text-soft">
        <span>{shown(first.low)}</span>
        <span>{shown(last.high)}</span>
      </p>
    </figure>
  );
}

function Sums({ summary }: { summary: Summary }) {
  const { marks } = useDesk();
  const number = (value: number | null, places: number) =>
    value === null ? "–" : inMarks(value.toFixed(places), marks);
  return (
    <div
      role="region"
      aria-label="What the table comes to"
      tabIndex={0}
      className="overflow-x-auto"
    >
      <table aria-label="Sums" className="mt-3 w-full max-w-5xl text-[0.95rem]">
        <thead>
          <tr className="text-sm text-soft">
            <td />
            {[
              "Rows",
              "Lent",
              "Payments, each",
              "Total interest",
              "Rate, by amount",
              "Effective, by amount",
              "Payments, by amount",
            ].map((name) => (
              <th key={name} scope="col" className="pl-4 text-right font-normal">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {summary.sums.map((sum) => (
            <tr key={sum.currency} className="border-t border-rule">
              <th scope="row" className="py-1 text-left font-semibold">
                {sum.currency}
              </th>
              {[
                inMarks(String(sum.rows), marks),
                number(sum.principal, 2),
                number(sum.payment, 2),
                number(sum.total_interest, 2),
                `${number(sum.percent, 4)} %`,
                `${number(sum.effective, 4)} %`,
                number(sum.count, 1),
              ].map((text, place) => (
                <td key={place} className="py-1 pl-4 text-right">
                  {text}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Where the columns chosen for files with these columns are kept. */
const keptAs = (table: TableOpened) =>
  `zephyrant-table-columns ${table.names.join(" ").slice(0, 400)}`;

function keptColumns(table: TableOpened): string[] {
  try {
    const kept = JSON.parse(localStorage.getItem(keptAs(table)) ?? "null") as unknown;
    if (Array.isArray(kept) && kept.length > 0) return kept.map(String);
  } catch {
    // What cannot be read is as if nothing was kept.
  }
  const called = table.columns.name;
  return ["row", ...(called === undefined ? [] : [`c${called}`]), ...OFTEN, "problem"];
}

const widthOf = (name: string) => WIDTHS[name] ?? WIDE;
const isEmpty = (value: Row[string] | undefined) =>
  value === null || value === undefined || value === "";

/** The cells of a row: each column's name and width. What has no answer says why in place of one, over
    whatever else is empty beside it. */
function cellsOf(row: Row, shown: readonly string[]): { name: string; wide: number }[] {
  const why = row.problem
    ? shown.findIndex((name) => ANSWER.includes(name) && isEmpty(row[name]))
    : -1;
  const cells: { name: string; wide: number }[] = [];
  shown.forEach((name, place) => {
    const last = cells.at(-1);
    const free = name === "problem" || isEmpty(row[name]);
    if (why >= 0 && place > why && last?.name === "problem" && free) last.wide += widthOf(name);
    else cells.push({ name: place === why ? "problem" : name, wide: widthOf(name) });
  });
  return cells;
}

/** The rows with their results: sorted, filtered, columns chosen. */
export function Result({ table }: { table: TableOpened }) {
  const { marks } = useDesk();
  const [columns, setColumns] = useState(() => keptColumns(table));
  const [sort, setSort] = useState<{ by: string; descending: boolean }>({
    by: "row",
    descending: false,
  });
  const [only, setOnly] = useState<Only>("all");
  const [text, setText] = useState("");
  const [choosing, setChoosing] = useState(false);
  const settled = useSettled(text.trim(), 200);
  const looking = {
    sort: sort.by,
    descending: sort.descending,
    only,
    text: settled,
    size: BLOCK,
  };
  const rowsOf = (start: number) => ({
    queryKey: ["table-rows", table.id, table.ended_at, looking, start],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      ask(
        client.GET("/api/v1/tables/{table_id}/rows", {
          params: { path: { table_id: table.id }, query: { ...looking, start } },
          signal,
        }),
      ),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
  const first = useQuery({ ...rowsOf(0), placeholderData: keepPreviousData });
  const total = first.data?.total ?? 0;
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const starts = [
    ...new Set(items.map((item) => Math.floor(item.index / BLOCK) * BLOCK).filter(Boolean)),
  ];
  const blocks = useQueries({ queries: starts.map(rowsOf) });
  const rowAt = (index: number): Row | undefined => {
    const start = Math.floor(index / BLOCK) * BLOCK;
    const block = start === 0 ? first.data : blocks[starts.indexOf(start)]?.data;
    return block?.items[index - start];
  };
  const source = new Map(
    table.titles
      .filter(({ name }) => /^c\d+$/.test(name))
      .map(({ name, title: said }) => [name, said]),
  );
  const title = (name: string) => source.get(name) ?? RESULTS[name] ?? name;
  const chosen = columns.filter((name) => source.has(name) || RESULTS[name]);
  // Where only rows without an answer are looked at, the reason stands where the answer would.
  const shown =
    only === "problems" && chosen.includes("found")
      ? chosen
          .filter((name) => name !== "problem")
          .map((name) => (name === "found" ? "problem" : name))
      : chosen;
  const width = shown.reduce((sum, name) => sum + widthOf(name), CASE_WIDE);
  const cell = (row: Row, name: string) => {
    const value = row[name];
    if (row.fits && name === "unknown") return "none: checked";
    if (row.fits && name === "found") return row.fits === "no" ? "does not fit" : "fits";
    if (isEmpty(value)) return "";
    if (name === "unknown") return UNKNOWNS[String(value)] ?? String(value);
    if (name === "outlier")
      return String(value)
        .split(", ")
        .map((each) => RESULTS[each]?.toLowerCase())
        .join(", ");
    if (source.has(name) || WORDS.includes(name)) return String(value);
    const number = String(value);
    return inMarks(/\.\d{7,}$/.test(number) ? trimmed(rounded(number, 6)) : number, marks);
  };
  const opened = useOpened();
  const open = useMutation({
    mutationFn: (row: number) =>
      ask(
        client.POST("/api/v1/tables/{table_id}/rows/{row}/case", {
          params: { path: { table_id: table.id, row } },
        }),
      ),
    onSuccess: opened,
  });
  const choose = (names: string[]) => {
    setColumns(names);
    localStorage.setItem(keptAs(table), JSON.stringify(names));
  };
  const { summary } = table;
  const taking = useTaking();
  const file = (kind: string) => `/api/v1/tables/${table.id}/file?kind=${kind}`;
  const filters: [Only, string, number][] = summary
    ? [
        ["all", "all rows", summary.rows],
        ["problems", "without an answer", summary.problems],
        ["unfit", "do not fit", summary.unfit],
        ["outliers", "stand out", summary.outliers],
      ]
    : [];
  return (
    <section aria-label="Result">
      {summary && (
        <>
          <Sums summary={summary} />
          <div className="mt-3 flex flex-wrap gap-6">
            {["percent", "payment", "count"].map((name) => (
              <Bars key={name} name={name} bins={summary.spread[name] ?? []} />
            ))}
          </div>
        </>
      )}
      <div className="mt-4 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <div role="group" aria-label="Which rows" className="flex flex-wrap gap-x-4">
          {filters.map(([name, label, rows]) => (
            <button
              key={name}
              aria-pressed={only === name}
              className={only === name ? "font-semibold underline" : "text-choice hover:underline"}
              onClick={() => setOnly(name)}
            >
              {label} ({inMarks(String(rows), marks)})
            </button>
          ))}
        </div>
        <input
          type="search"
          aria-label="Find in the table"
          placeholder="Find in the table"
          value={text}
          className="w-60 rounded border border-rule-strong bg-sheet px-3 py-1 placeholder:text-soft"
          onChange={(event) => setText(event.target.value)}
        />
        <span className="ml-auto flex gap-4 text-sm text-soft">
          <button
            aria-expanded={choosing}
            className="hover:text-ink"
            onClick={() => setChoosing((now) => !now)}
          >
            Columns
          </button>
          <Menu
            name="Take out"
            actions={[
              { label: "Table (CSV)", href: file("csv") },
              { label: "Workbook (XLSX)", run: () => taking.take("the workbook", file("xlsx")) },
              { label: "JSON Lines", href: file("jsonl") },
            ]}
          >
            Take out <span aria-hidden>▾</span>
          </Menu>
        </span>
      </div>
      <Taking taking={taking} />
      {choosing && (
        <fieldset className="mt-2 flex flex-wrap gap-x-5 rounded border border-rule bg-sheet p-3 text-[0.95rem]">
          <legend className="text-sm text-soft">Columns shown</legend>
          {[...source.keys(), ...Object.keys(RESULTS)].map((name) => (
            <label key={name} className="flex items-baseline gap-1.5">
              <input
                type="checkbox"
                checked={columns.includes(name)}
                onChange={() =>
                  choose(
                    columns.includes(name)
                      ? columns.filter((each) => each !== name)
                      : [...columns, name],
                  )
                }
              />
              {title(name)}
            </label>
          ))}
        </fieldset>
      )}
      {(first.error ?? open.error) && (
        <p role="alert" className="mt-2 text-wrong">
          {(first.error ?? open.error)?.message}
        </p>
      )}
      <div
        ref={box}
        role="table"
        aria-label="Rows"
        aria-rowcount={total}
        aria-busy={first.isFetching}
        tabIndex={0}
        className="mt-2 overflow-auto rounded-lg border border-rule bg-sheet"
        style={{ height: `min(30rem, ${(total + 2) * ROW_HEIGHT}px)` }}
      >
        <div role="rowgroup" className="sticky top-0 z-10 bg-sheet">
          <div role="row" className="flex border-b border-rule-strong text-sm" style={{ width }}>
            {shown.map((name) => (
              <div
                key={name}
                role="columnheader"
                aria-sort={
                  sort.by === name ? (sort.descending ? "descending" : "ascending") : "none"
                }
                style={{ width: widthOf(name) }}
                className={WORDS.includes(name) || source.has(name) ? "px-2" : "px-2 text-right"}
              >
                <button
                  className="py-1.5 text-soft hover:text-ink"
                  onClick={() =>
                    setSort((now) => ({
                      by: name,
                      descending: now.by === name && !now.descending,
                    }))
                  }
                >
                  {title(name)}
                  <span aria-hidden>{sort.by === name ? (sort.descending ? " ↓" : " ↑") : ""}</span>
                </button>
              </div>
            ))}
            <div role="columnheader" style={{ width: CASE_WIDE }}>
              <span className="sr-only">As a case</span>
            </div>
          </div>
        </div>
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize(), width }}>
          {items.map((item) => {
            const row = rowAt(item.index);
            return (
              <div
                key={item.key}
                role="row"
                aria-rowindex={item.index + 1}
                className="absolute flex items-center border-b border-rule"
                style={{ top: item.start, height: ROW_HEIGHT }}
              >
                {row ? (
                  <>
                    {cellsOf(row, shown).map(({ name, wide }, place) => (
                      <div
                        key={place}
                        role="cell"
                        title={name === "problem" ? String(row[name]) : undefined}
                        style={{ width: wide }}
                        className={`truncate px-2 ${WORDS.includes(name) || source.has(name) ? "" : "text-right"} ${name === "found" ? "font-semibold" : ""} ${name === "problem" || ((name === "fits" || name === "found") && row.fits === "no") ? "text-wrong" : ""} ${name === row.unknown ? "bg-unknown/20" : ""}`}
                      >
                        {cell(row, name)}
                      </div>
                    ))}
                    <div role="cell" style={{ width: CASE_WIDE }}>
                      <button
                        className="text-sm text-choice underline"
                        onClick={() => open.mutate(Number(row.row))}
                      >
                        open<span className="sr-only"> row {row.row} as a case</span>
                      </button>
                    </div>
                  </>
                ) : (
                  <div role="cell" className="px-2 text-soft">
                    …
                  </div>
                )}
              </div>
            );
          })}
        </div>
      </div>
      {first.data && total === 0 && <p className="mt-2 text-soft">No row is like that.</p>}
    </section>
  );
}
