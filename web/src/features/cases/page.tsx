import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQueryClient,
} from "@tanstack/react-query";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import { ask, client, Refused, type CaseListed, type MarksWord } from "../../api/client";
import { Choice } from "../../ui/choice";
import { useKeys } from "../../hooks/use-keys";
import { Menu } from "../../ui/menu";
import { moment } from "../../ui/moment";
import { inMarks, trimmed } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { FlowsSheet } from "./flows";
import { useCopyCase, useOpenDocument, useStartCase } from "../../ui/start";

const ASKED: Record<string, string> = {
  payment: "the payment",
  principal: "the amount lent",
  rate: "the rate",
  count: "the number of payments",
  balance: "the balance at the end",
  "purchase.price": "the price",
  "purchase.down.percent": "the down payment",
  "purchase.down.amount": "the down payment",
};

/** What is asked for in a clause, by the last step of its path. */
const ASKED_IN_CLAUSE: [RegExp, string][] = [
  [/rate\.percent$/, "the rate of a clause"],
  [/payment$/, "a payment of its own"],
  [/repay$/, "a repayment"],
  [/advance$/, "an advance"],
  [/fee(\.percent)?$/, "a fee"],
  [/step\./, "how the payment grows"],
];
const SORTS = {
  changed: "last changed first",
  name: "by name",
  created: "newest first",
} as const;
type Sort = keyof typeof SORTS;
const ROW_HEIGHT = 58;

function askedFor(unknown: string | null | undefined): string {
  if (!unknown) return "every figure stated";
  const inClause = ASKED_IN_CLAUSE.find(([path]) => path.test(unknown))?.[1];
  return `asks for ${ASKED[unknown] ?? inClause ?? "a figure"}`;
}

function found(listed: CaseListed, marks: MarksWord): ReactNode {
  if (!listed.found) return <span className="text-soft">not whole yet</span>;
  const { unknown, value, quote, fits, reason } = listed.found;
  if (unknown === null || unknown === undefined)
    return <b>{fits ? "the figures fit" : "the figures do not fit"}</b>;
  if (!reason && (value === null || value === undefined))
    return <span className="text-soft">several rates fit</span>;
  if (value === null || value === undefined)
    return (
      <span className="text-soft" title={reason ?? ""}>
        no answer: {reason}
      </span>
    );
  if (unknown.endsWith("percent") && unknown !== "rate")
    return <b>{inMarks(trimmed(value), marks)} %</b>;
  if (unknown === "rate")
    return (
      <>
        <b>{inMarks(trimmed(value), marks)} %</b> {quote}
      </>
    );
  if (unknown === "count") return <b>{inMarks(value, marks)} payments</b>;
  return (
    <>
      <b>{inMarks(value, marks)}</b> {listed.currency}
    </>
  );
}

interface RowProps {
  listed: CaseListed;
  onTag: (tag: string) => void;
  onDelete: (listed: CaseListed) => void;
}

function Row({ listed, onTag, onDelete }: RowProps) {
  const { marks } = useDesk();
  const copy = useCopyCase();
  const name = listed.name || "Unnamed case";
  const actions = [
    { label: "Copy", run: () => copy.mutate(listed.id) },
    { label: "Take out as a document", href: `/api/v1/cases/${listed.id}/document` },
    ...(listed.owner ? [] : [{ label: "Delete", run: () => onDelete(listed) }]),
  ];
  return (
    <div className="flex h-full items-center border-b border-rule hover:bg-paper">
      <Link
        to={`/cases/${listed.id}`}
        className="grid h-full min-w-0 grow grid-cols-[minmax(0,1fr)] content-center items-center gap-x-6 pl-4 sm:grid-cols-[minmax(0,5fr)_minmax(0,3.4fr)_minmax(0,4fr)]"
      >
        <span className="truncate font-serif text-lg leading-snug font-semibold">{name}</span>
        <span className="hidden truncate text-soft sm:block">
          {listed.found && askedFor(listed.found.unknown)}
        </span>
        <span className="truncate sm:text-right">{found(listed, marks)}</span>
      </Link>
      <span className="hidden w-40 shrink-0 justify-end gap-1 pl-3 text-sm md:flex md:flex-wrap">
        {listed.owner && <span className="truncate text-soft">{listed.owner}</span>}
        {listed.tags.slice(0, 2).map((tag) => (
          <button
            key={tag}
            className="truncate rounded-full border border-rule px-2 text-soft hover:text-ink"
            onClick={() => onTag(tag)}
          >
            {tag}
          </button>
        ))}
      </span>
      <span className="hidden w-28 shrink-0 pl-3 text-right text-sm text-soft sm:block">
        {moment(listed.changed_at)}
      </span>
      <span className="px-2 text-soft">
        <Menu name={`What to do with ${name}`} actions={actions}>
          ⋯
        </Menu>
      </span>
    </div>
  );
}

function OpenFile() {
  const open = useOpenDocument();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const { mutate } = open;
  useEffect(() => {
    const drag = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes("Files")) return;
      event.preventDefault();
      setOver(event.type === "dragover");
      const file = event.dataTransfer.files[0];
      if (event.type === "drop" && file) mutate(file);
    };
    const kinds = ["dragover", "dragleave", "drop"] as const;
    kinds.forEach((kind) => addEventListener(kind, drag));
    return () => kinds.forEach((kind) => removeEventListener(kind, drag));
  }, [mutate]);
  return (
    <>
      {over && (
        <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-xl border-4 border-dashed border-choice bg-paper/85 font-serif text-2xl">
          Drop the loan document here
        </div>
      )}
      <input
        ref={input}
        type="file"
        accept=".json,.zip,application/json,application/zip"
        aria-label="Loan document to open"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) mutate(file);
          event.target.value = "";
        }}
      />
      <button
        className="rounded border border-rule-strong px-4 py-1.5"
        title="Or all cases as they were taken out (.json, .zip); or drop the file anywhere on this page"
        onClick={() => input.current?.click()}
      >
        Open a document
      </button>
      {typeof open.data === "number" && (
        <p role="status">
          {open.data} {open.data === 1 ? "case" : "cases"} opened.
        </p>
      )}
      {open.error && (
        <div role="alert" className="basis-full text-wrong">
          {open.error instanceof Refused && open.error.errors.length > 0 ? (
            <ul>
              {open.error.errors.map((error) => (
                <li key={error.field + error.message}>
                  {error.field && <code className="mr-2 font-semibold">{error.field}</code>}
                  {error.message}
                </li>
              ))}
            </ul>
          ) : (
            open.error.message
          )}
        </div>
      )}
    </>
  );
}

/** Deleting with a way back: the case lies in the bin, and a line says so. */
function useDelete() {
  const queries = useQueryClient();
  const [last, setLast] = useState<CaseListed | null>(null);
  const anew = () => queries.invalidateQueries({ queryKey: ["cases"] });
  const path = (id: string) => ({ params: { path: { case_id: id } } });
  const away = useMutation({
    mutationFn: (listed: CaseListed) =>
      ask(client.DELETE("/api/v1/cases/{case_id}", path(listed.id))),
    onSuccess: (_, listed) => {
      setLast(listed);
      return anew();
    },
  });
  const undo = useMutation({
    mutationFn: (listed: CaseListed) =>
      ask(client.POST("/api/v1/cases/{case_id}/undelete", path(listed.id))),
    onSuccess: () => {
      setLast(null);
      return anew();
    },
  });
  return { last, away, undo, failed: away.error ?? undo.error };
}

function useList(q: string, sort: Sort) {
  const list = useInfiniteQuery({
    queryKey: ["cases", q, sort],
    queryFn: ({ pageParam, signal }) =>
      ask(
        client.GET("/api/v1/cases", { params: { query: { q, sort, start: pageParam } }, signal }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const fetched = pages.reduce((sum, page) => sum + page.items.length, 0);
      return fetched < last.total ? fetched : undefined;
    },
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  const cases = useMemo(() => list.data?.pages.flatMap((page) => page.items) ?? [], [list.data]);
  return { list, cases, total: list.data?.pages.at(-1)?.total ?? 0 };
}

export function CasesPage() {
  const [search, setSearch] = useSearchParams();
  const q = search.get("q") ?? "";
  const asked = search.get("sort") ?? "changed";
  const sort: Sort = asked in SORTS ? (asked as Sort) : "changed";
  const { list, cases, total } = useList(q, sort);
  const start = useStartCase();
  const { last, away, undo, failed } = useDelete();
  const [flows, setFlows] = useState(false);
  const find = useRef<HTMLInputElement>(null);
  const keys = useMemo(() => [{ key: "f", run: () => find.current?.focus() }], []);
  useKeys(keys);

  const look = (change: Record<string, string>) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [name, value] of Object.entries(change)) {
          if (value) next.set(name, value);
          else next.delete(name);
        }
        return next;
      },
      { replace: true },
    );

  const box = useRef<HTMLDivElement>(null);
  const [offset, setOffset] = useState(0);
  useLayoutEffect(() => {
    setOffset(Math.round((box.current?.getBoundingClientRect().top ?? 0) + scrollY));
  }, [cases.length, last]);
  const virtual = useWindowVirtualizer({
    count: cases.length,
    estimateSize: () => ROW_HEIGHT,
    overscan: 10,
    scrollMargin: offset,
  });
  const shown = virtual.getVirtualItems();
  const end = shown.at(-1)?.index ?? 0;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = list;
  useEffect(() => {
    if (hasNextPage && !isFetchingNextPage && end >= cases.length - 20) void fetchNextPage();
  }, [end, cases.length, hasNextPage, isFetchingNextPage, fetchNextPage]);

  return (
    <main className="mx-auto max-w-[1280px] px-4 py-6 sm:px-8">
      <title>Cases · Zephyrant</title>
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto font-serif text-3xl font-semibold">Cases</h1>
        <OpenFile />
        <button
          className="rounded border border-rule-strong px-4 py-1.5"
          onClick={() => setFlows(true)}
        >
          Flows
        </button>
        <FlowsSheet open={flows} onOpen={setFlows} />
        <button
          className="rounded bg-ink px-4 py-1.5 font-semibold text-paper"
          onClick={() => start.mutate()}
        >
          New case
        </button>
      </div>
      <div className="mt-4 flex flex-wrap items-center gap-x-5 gap-y-2 text-sm text-soft">
        <input
          ref={find}
          type="search"
          aria-label="Find a case"
          placeholder="Find by name, amount, note or #tag"
          value={q}
          className="w-full max-w-md rounded border border-rule-strong bg-sheet px-3 py-1.5 text-base text-ink placeholder:text-soft"
          onChange={(event) => look({ q: event.target.value })}
          onKeyDown={(event) => {
            if (event.key === "Escape") event.currentTarget.blur();
          }}
        />
        <Choice
          name="Sorted"
          value={sort}
          shown={SORTS[sort]}
          options={Object.entries(SORTS).map(([value, label]) => ({ value, label }))}
          onChoose={(chosen) => look({ sort: chosen === "changed" ? "" : chosen })}
        />
        <span role="status">
          {list.data && `${total} ${total === 1 ? "case" : "cases"}${q ? " found" : ""}`}
        </span>
        <span className="ml-auto flex gap-4">
          <Menu
            name="Take all out"
            actions={[
              { label: "All as one JSON file", href: "/api/v1/cases/file?kind=json" },
              { label: "All as a zip, a file each", href: "/api/v1/cases/file?kind=zip" },
            ]}
          >
            Take all out
          </Menu>
          <Link className="hover:text-ink" to="/bin">
            Bin
          </Link>
        </span>
      </div>
      {last && (
        <p role="status" className="mt-3 rounded border border-rule bg-sheet px-4 py-2">
          “{last.name || "Unnamed case"}” is in the bin.{" "}
          <button className="text-choice underline" onClick={() => undo.mutate(last)}>
            Undo
          </button>
        </p>
      )}
      {(start.error ?? failed ?? list.error) && (
        <p role="alert" className="mt-2 text-wrong">
          {(start.error ?? failed ?? list.error)?.message}
        </p>
      )}
      {list.data && cases.length === 0 && (
        <div className="mt-10 max-w-prose">
          {q ? (
            <>
              <p className="font-serif text-xl">No case holds “{q}”.</p>
              <p className="mt-2 text-soft">
                Every word is looked for in names, notes, tags and figures.{" "}
                <button className="text-choice underline" onClick={() => look({ q: "" })}>
                  Show all
                </button>
              </p>
            </>
          ) : (
            <>
              <p className="font-serif text-xl">No cases yet.</p>
              <p className="mt-2 text-soft">
                A case is one loan: what is known of it, a ? for what is not, and everything that
                follows. Start one with “New case”, or press n.
              </p>
            </>
          )}
        </div>
      )}
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
                    <Row
                      listed={listed}
                      onTag={(tag) => look({ q: `#${tag}` })}
                      onDelete={(gone) => away.mutate(gone)}
                    />
                  </li>
                )
              );
            })}
          </ul>
        )}
      </div>
    </main>
  );
}
