import {
  keepPreviousData,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { answerWith } from "./answer-with";
import { ask, client, everyPage } from "./client";
import type { CaseOpened, Defaults, PortfolioTyped, TableOpened } from "./types";

export const TABLES = ["tables"];
export const tableKey = (id: string) => ["table", id];
const path = (id: string) => ({ params: { path: { table_id: id } } });
export const isUnderWay = (state: string) => state === "waiting" || state === "running";

/** Every table; looked at again while one of them is being worked. */
export function useTables() {
  return useQuery({
    queryKey: TABLES,
    queryFn: () =>
      everyPage((start) => ask(client.GET("/api/v1/tables", { params: { query: { start } } }))),
    staleTime: 0,
    refetchInterval: (query) =>
      query.state.data?.some((each) => isUnderWay(each.state)) ? 1_000 : false,
  });
}

export function useTable(id: string) {
  return useQuery({
    queryKey: tableKey(id),
    queryFn: () => ask(client.GET("/api/v1/tables/{table_id}", path(id))),
    staleTime: 0,
  });
}

export function startTable(file: File): Promise<TableOpened> {
  const form = new FormData();
  form.append("file", file);
  return ask(
    client.POST("/api/v1/tables", {
      body: form as never,
      bodySerializer: (body) => body as unknown as FormData,
    }),
  );
}

export function startTableFromText(text: string): Promise<TableOpened> {
  return ask(client.POST("/api/v1/tables/from-text", { body: { text, name: "" } }));
}

export function useDeleteTable() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => ask(client.DELETE("/api/v1/tables/{table_id}", path(id))),
    onSuccess: () => queries.invalidateQueries({ queryKey: TABLES }),
  });
}

/** How far the work on a table is; `onTold` is called with each answer. */
export function useTableProgress(table: TableOpened, onTold: () => void) {
  return useQuery({
    queryKey: ["table-progress", table.id, table.asked_at],
    queryFn: async () => {
      const told = await ask(client.GET("/api/v1/tables/{table_id}/progress", path(table.id)));
      onTold();
      return told;
    },
    refetchInterval: 250,
    staleTime: 0,
    gcTime: 0,
  });
}

export function useStopTable(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => ask(client.DELETE("/api/v1/tables/{table_id}/work", path(id))),
    onSuccess: () => queries.invalidateQueries({ queryKey: tableKey(id) }),
  });
}

/** What the cells of matched columns say of how they are written. */
export function useTableReading(id: string, columns: TableOpened["columns"]) {
  return useQuery({
    queryKey: ["table-reading", id, columns],
    queryFn: () =>
      ask(client.POST("/api/v1/tables/{table_id}/ask/reading", { ...path(id), body: { columns } })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
}

/** The table matched, and set to be worked. */
export function useSaveMatching(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { columns: TableOpened["columns"]; defaults: Defaults }) =>
      ask(client.PUT("/api/v1/tables/{table_id}/matching", { ...path(id), body })),
    onSuccess: (opened) => answerWith(queries, tableKey(id), opened),
  });
}

export type Only = "all" | "problems" | "unfit" | "outliers";

/** Which rows of a result to see, and how. */
export interface Looking {
  sort: string;
  descending: boolean;
  only: Only;
  text: string;
  size: number;
}

function rowsFrom(table: TableOpened, looking: Looking, start: number) {
  return {
    queryKey: ["table-rows", table.id, table.asked_at, table.ended_at, looking, start],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      ask(
        client.GET("/api/v1/tables/{table_id}/rows", {
          params: { path: { table_id: table.id }, query: { ...looking, start, told: true } },
          signal,
        }),
      ),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  };
}

/** The first rows that are to be seen, and how many there are. */
export function useFirstRows(table: TableOpened, looking: Looking) {
  return useQuery({ ...rowsFrom(table, looking, 0), placeholderData: keepPreviousData });
}

/** Those that begin at each of these. */
export function useLaterRows(table: TableOpened, looking: Looking, starts: readonly number[]) {
  return useQueries({ queries: starts.map((start) => rowsFrom(table, looking, start)) });
}

/** A row as a case of its own. */
export function startFromRow(id: string, row: number): Promise<CaseOpened> {
  return ask(
    client.POST("/api/v1/tables/{table_id}/rows/{row}/case", {
      params: { path: { table_id: id, row } },
    }),
  );
}

const FLOWS = "table-flows";
export const flowsKey = (table: TableOpened) => [FLOWS, table.id];

/** What the loans of a table move, as the server tells it. */
export function useTableFlows(table: TableOpened, asked: PortfolioTyped) {
  return useQuery({
    queryKey: [...flowsKey(table), table.ended_at, asked],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/v1/tables/{table_id}/ask/flows", {
          ...path(table.id),
          body: asked,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
}

/** Where all flows of a table are taken out as a file. */
export function flowsFile(table: TableOpened, asked: PortfolioTyped, kind: string): string {
  const { on, early, rate, compounded, by } = asked;
  const query = new URLSearchParams({ kind, on, early, rate, by, compounded: String(compounded) });
  return `/api/v1/tables/${table.id}/flows/file?${query}`;
}
