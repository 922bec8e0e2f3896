import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import {
  ask,
  client,
  everyPage,
  type FieldError,
  type QuoteList,
  type QuoteListOpened,
} from "../../api/client";
import { moment } from "../../ui/moment";
import { useDesk } from "../../hooks/use-desk";
import { RatesTabs } from "./tabs";

function useOpened() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  return (opened: QuoteListOpened, problems: FieldError[] = []) => {
    void queries.invalidateQueries({ queryKey: ["quote-lists"] });
    void navigate(`/rates/side-by-side/${opened.id}`, { state: { problems } });
  };
}

function OpenFile() {
  const opened = useOpened();
  const input = useRef<HTMLInputElement>(null);
  const open = useMutation({
    mutationFn: async (file: File) => {
      const name = file.name.replace(/\.\w+$/, "").slice(0, 200);
      return ask(
        client.POST("/api/v1/quote-lists/from-file", {
          params: { query: { name } },
          body: (await file.arrayBuffer()) as never,
          bodySerializer: (body) => body as unknown as ArrayBuffer,
          headers: { "Content-Type": "text/plain" },
        }),
      );
    },
    onSuccess: (read) => opened(read, read.problems),
  });
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".csv,.json,text/csv,application/json"
        aria-label="List of quotes to open"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) open.mutate(file);
          event.target.value = "";
        }}
      />
      <button
        className="rounded border border-rule-strong px-4 py-1.5"
        title="A CSV whose first row names its columns, or a JSON taken out here"
        onClick={() => input.current?.click()}
      >
        Open a file
      </button>
      {open.error && (
        <p role="alert" className="basis-full text-wrong">
          {open.error.message}
        </p>
      )}
    </>
  );
}

/** Every list of quotes, and the ways to start one. */
export function QuoteLists() {
  const { me } = useDesk();
  const opened = useOpened();
  const queries = useQueryClient();
  const [gone, setGone] = useState<{ id: string; name: string } | null>(null);
  const lists = useQuery({
    queryKey: ["quote-lists"],
    queryFn: () =>
      everyPage((start) =>
        ask(client.GET("/api/v1/quote-lists", { params: { query: { start } } })),
      ),
    staleTime: 0,
  });
  const anew = () => queries.invalidateQueries({ queryKey: ["quote-lists"] });
  const start = useMutation({
    mutationFn: () => {
      const blank = { marks: me.marks, quotes: [{}, {}] } as unknown as QuoteList;
      return ask(client.POST("/api/v1/quote-lists", { body: blank }));
    },
    onSuccess: (kept) => opened(kept),
  });
  const path = (id: string) => ({ params: { path: { list_id: id } } });
  const away = useMutation({
    mutationFn: ({ id }: { id: string; name: string }) =>
      ask(client.DELETE("/api/v1/quote-lists/{list_id}", path(id))),
    onSuccess: (_, deleted) => {
      setGone(deleted);
      return anew();
    },
  });
  const back = useMutation({
    mutationFn: (id: string) =>
      ask(client.POST("/api/v1/quote-lists/{list_id}/undelete", path(id))),
    onSuccess: () => {
      setGone(null);
      return anew();
    },
  });
  const failed = start.error ?? lists.error ?? away.error ?? back.error;
  return (
    <main className="mx-auto max-w-[1280px] px-4 py-6 sm:px-8">
      <title>Quotes side by side · Zephyrant</title>
      <div className="flex flex-wrap items-baseline justify-between gap-x-8 gap-y-2">
        <h1 className="font-serif text-3xl font-semibold">Rates</h1>
        <RatesTabs />
      </div>
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <p className="mr-auto max-w-prose text-soft">
          Quotes in whatever clothes they come, on one footing: ranked by what a year really costs,
          and in money on a loan.
        </p>
        <OpenFile />
        <button
          className="rounded bg-ink px-4 py-1.5 font-semibold text-paper"
          onClick={() => start.mutate()}
        >
          New list
        </button>
      </div>
      {failed && (
        <p role="alert" className="mt-2 text-wrong">
          {failed.message}
        </p>
      )}
      {gone && (
        <p role="status" className="mt-3 rounded border border-rule bg-sheet px-4 py-2">
          “{gone.name || "Unnamed list"}” is in the bin.{" "}
          <button className="text-choice underline" onClick={() => back.mutate(gone.id)}>
            Undo
          </button>
        </p>
      )}
      {lists.data?.length === 0 && (
        <p className="mt-8 font-serif text-xl">No quotes are kept yet. “New list” starts one.</p>
      )}
      {lists.data && lists.data.length > 0 && (
        <ul aria-label="Lists of quotes" className="mt-4 rounded-lg border border-rule bg-sheet">
          {lists.data.map((kept) => (
            <li
              key={kept.id}
              className="flex items-baseline gap-x-4 border-b border-rule px-4 py-2.5 last:border-0"
            >
              <Link
                to={`/rates/side-by-side/${kept.id}`}
                className="min-w-0 grow truncate font-serif text-lg font-semibold"
              >
                {kept.name || "Unnamed list"}
              </Link>
              <span className="text-soft">
                {kept.quotes} {kept.quotes === 1 ? "quote" : "quotes"}
              </span>
              <span className="hidden text-sm text-soft sm:block">{moment(kept.changed_at)}</span>
              <button
                className="text-choice underline"
                aria-label={`Delete ${kept.name || "Unnamed list"}`}
                onClick={() => away.mutate({ id: kept.id, name: kept.name })}
              >
                Delete
              </button>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
