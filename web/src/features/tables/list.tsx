import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { ask, client, everyPage, type TableOpened } from "../../api/client";
import { moment } from "../../ui/moment";
import { stateWords } from "./names";

function useOpened() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  return (opened: TableOpened) => {
    queries.setQueryData(["table", opened.id], opened);
    void queries.invalidateQueries({ queryKey: ["tables"] });
    void navigate(`/tables/${opened.id}`);
  };
}

/** Every table of loans, and the ways to open one. */
export function TablesPage() {
  const queries = useQueryClient();
  const opened = useOpened();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState("");
  const [over, setOver] = useState(false);
  const list = useQuery({
    queryKey: ["tables"],
    queryFn: () =>
      everyPage((start) => ask(client.GET("/api/v1/tables", { params: { query: { start } } }))),
    staleTime: 0,
    refetchInterval: (query) =>
      query.state.data?.some((each) => ["waiting", "running"].includes(each.state)) ? 1_000 : false,
  });
  const open = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("file", file);
      return ask(
        client.POST("/api/v1/tables", {
          body: form as never,
          bodySerializer: (body) => body as unknown as FormData,
        }),
      );
    },
    onSuccess: opened,
  });
  const paste = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/tables/from-text", { body: { text, name: "" } })),
    onSuccess: opened,
  });
  const away = useMutation({
    mutationFn: (id: string) =>
      ask(client.DELETE("/api/v1/tables/{table_id}", { params: { path: { table_id: id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["tables"] }),
  });
  const error = open.error ?? paste.error ?? away.error ?? list.error;
  return (
    <main
      className="mx-auto max-w-[1280px] px-4 py-6 sm:px-8"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        const file = event.dataTransfer.files[0];
        if (file) open.mutate(file);
      }}
    >
      <title>Tables · Zephyrant</title>
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto font-serif text-3xl font-semibold">Tables of loans</h1>
        <input
          ref={input}
          type="file"
          accept=".csv,.txt,.tsv,.xlsx,.xls,.jsonl,.ndjson,.json,.parquet,.gz"
          aria-label="Table to open"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) open.mutate(file);
            event.target.value = "";
          }}
        />
        <button
          className="rounded bg-ink px-4 py-1.5 font-semibold text-paper"
          disabled={open.isPending}
          onClick={() => input.current?.click()}
        >
          {open.isPending ? "Reading …" : "Open a file"}
        </button>
      </div>
      <p className="mt-2 max-w-prose text-soft">
        A loan tape, a price sheet, a column of capacities: each row is solved as a case would be.
        An empty cell or a ? is the unknown of its row.
      </p>
      {error && (
        <p role="alert" className="mt-3 text-wrong">
          {error.message}
        </p>
      )}
      <div
        className={`mt-4 rounded-lg border border-dashed p-4 ${over ? "border-choice bg-sheet" : "border-rule-strong"}`}
      >
        <p className="text-soft">
          Drop a CSV, XLSX or JSON Lines file here (at most 50 MB, 200,000 rows), or paste a table:
        </p>
        <textarea
          aria-label="Table to paste"
          rows={3}
          value={text}
          maxLength={900_000}
          placeholder={"name;amount;rate;payments;payment\nKiln;17,840;6.9;48;?"}
          className="mt-2 w-full rounded border border-rule-strong bg-sheet px-2.5 py-1 font-mono text-sm placeholder:text-soft"
          onChange={(event) => setText(event.target.value)}
        />
        <button
          className="mt-1 rounded border border-rule-strong px-4 py-1"
          disabled={!text.trim() || paste.isPending}
          onClick={() => paste.mutate()}
        >
          Take this table
        </button>
      </div>
      {list.data?.length === 0 && <p className="mt-6 font-serif text-xl">No tables yet.</p>}
      {list.data && list.data.length > 0 && (
        <ul aria-label="Tables" className="mt-5 rounded-lg border border-rule bg-sheet">
          {list.data.map((table) => (
            <li
              key={table.id}
              className="flex flex-wrap items-baseline gap-x-5 border-b border-rule px-4 py-2.5 last:border-0"
            >
              <Link className="font-serif text-lg font-semibold" to={`/tables/${table.id}`}>
                {table.name}
              </Link>
              <span className="text-soft">
                {table.rows.toLocaleString("en")} {table.rows === 1 ? "row" : "rows"},{" "}
                {stateWords(table)}
              </span>
              <span className="ml-auto text-sm text-soft">{moment(table.created_at)}</span>
              <button
                className="text-sm text-choice underline"
                onClick={() => away.mutate(table.id)}
              >
                Delete<span className="sr-only"> {table.name}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
