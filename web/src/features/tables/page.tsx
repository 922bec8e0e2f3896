import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { ask, client, type TableOpened } from "../../api/client";
import { CannotOpen } from "../../ui/cannot-open";
import { Matching } from "./matching";
import { stateWords } from "./names";
import { Result } from "./result";

/** How long something takes, in words. */
function duration(seconds: number): string {
  if (seconds < 1) return "a moment";
  if (seconds < 90) return `${Math.ceil(seconds)} seconds`;
  return `${Math.ceil(seconds / 60)} minutes`;
}

/** The work under way: rows done, how fast, how much longer. */
function Progress({ table }: { table: TableOpened }) {
  const queries = useQueryClient();
  const [now, setNow] = useState(() => Date.now());
  const progress = useQuery({
    queryKey: ["table-progress", table.id, table.asked_at],
    queryFn: async () => {
      const told = await ask(
        client.GET("/api/v1/tables/{table_id}/progress", {
          params: { path: { table_id: table.id } },
        }),
      );
      setNow(Date.now());
      return told;
    },
    refetchInterval: 250,
    staleTime: 0,
    gcTime: 0,
  });
  const told = progress.data ?? table;
  const ended = !["waiting", "running"].includes(told.state);
  useEffect(() => {
    if (ended) void queries.invalidateQueries({ queryKey: ["table", table.id] });
  }, [ended, queries, table.id]);
  const cancel = useMutation({
    mutationFn: () =>
      ask(
        client.DELETE("/api/v1/tables/{table_id}/work", {
          params: { path: { table_id: table.id } },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["table", table.id] }),
  });
  const seconds = told.began_at ? (now - new Date(told.began_at).getTime()) / 1000 : 0;
  const rate = seconds > 0.3 && told.done ? told.done / seconds : 0;
  return (
    <section aria-label="Progress" className="mt-6 max-w-2xl">
      <p role="status" className="font-serif text-xl">
        {stateWords(told)}
      </p>
      <progress
        aria-label="Rows done"
        className="mt-2 h-3 w-full"
        value={told.done}
        max={told.rows}
      />
      <p className="mt-1 text-soft">
        {rate > 0
          ? `${Math.round(rate).toLocaleString("en")} rows a second, about ${duration((told.rows - told.done) / rate)} more.`
          : "It begins in a moment."}{" "}
        You may leave this page: the work goes on.
      </p>
      <button
        className="mt-3 rounded border border-rule-strong px-4 py-1"
        disabled={cancel.isPending}
        onClick={() => cancel.mutate()}
      >
        Cancel
      </button>
      {(progress.error ?? cancel.error) && (
        <p role="alert" className="mt-2 text-wrong">
          {(progress.error ?? cancel.error)?.message}
        </p>
      )}
    </section>
  );
}

export function TablePage() {
  const { id = "" } = useParams();
  const [again, setAgain] = useState<string | null>(null);
  const opened = useQuery({
    queryKey: ["table", id],
    queryFn: () =>
      ask(client.GET("/api/v1/tables/{table_id}", { params: { path: { table_id: id } } })),
    staleTime: 0,
  });
  if (opened.error)
    return (
      <CannotOpen what="table" why={opened.error.message} to="/tables" list="To your tables" />
    );
  const table = opened.data;
  if (!table) return <main className="p-8 text-soft">Opening the table …</main>;
  const matching = ["matching", "cancelled", "failed"].includes(table.state);
  const rematching = again === table.asked_at && table.state === "done";
  return (
    <main className="mx-auto max-w-[1280px] px-4 py-6 sm:px-8">
      <title>{`${table.name} · Zephyrant`}</title>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="font-serif text-2xl font-semibold break-words">{table.name}</h1>
        <span className="text-soft">
          {table.rows.toLocaleString("en")} {table.rows === 1 ? "row" : "rows"}, {stateWords(table)}
        </span>
        <span className="ml-auto flex gap-4 text-sm">
          {table.state === "done" && (
            <button
              className="text-choice underline"
              onClick={() => setAgain(rematching ? null : table.asked_at)}
            >
              {rematching ? "Back to the result" : "Match its columns anew"}
            </button>
          )}
          <Link className="text-choice underline" to="/tables">
            All tables
          </Link>
        </span>
      </div>
      {matching || rematching ? (
        <Matching key={`${table.id} ${table.state}`} table={table} />
      ) : table.state === "done" ? (
        <Result table={table} />
      ) : (
        <Progress table={table} />
      )}
    </main>
  );
}
