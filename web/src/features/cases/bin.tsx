import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask, client, everyPage } from "../../api/client";
import { day, moment } from "../../ui/moment";

/** What was deleted in the last thirty days. */
export function BinPage() {
  const queries = useQueryClient();
  const bin = useQuery({
    queryKey: ["bin"],
    queryFn: () =>
      everyPage((start) => ask(client.GET("/api/v1/cases/bin", { params: { query: { start } } }))),
    staleTime: 0,
  });
  const lists = useQuery({
    queryKey: ["bin", "lists"],
    queryFn: () =>
      everyPage((start) =>
        ask(client.GET("/api/v1/quote-lists/bin", { params: { query: { start } } })),
      ),
    staleTime: 0,
  });
  const back = useMutation({
    mutationFn: async ({ id, isList }: { id: string; isList: boolean }) => {
      if (isList)
        await ask(
          client.POST("/api/v1/quote-lists/{list_id}/undelete", {
            params: { path: { list_id: id } },
          }),
        );
      else
        await ask(
          client.POST("/api/v1/cases/{case_id}/undelete", { params: { path: { case_id: id } } }),
        );
    },
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["cases"] });
      void queries.invalidateQueries({ queryKey: ["quote-lists"] });
      return queries.invalidateQueries({ queryKey: ["bin"] });
    },
  });
  const gone = [
    ...(bin.data ?? []).map((each) => ({ ...each, isList: false })),
    ...(lists.data ?? []).map((each) => ({ ...each, isList: true })),
  ].sort((one, other) => other.deleted_at.localeCompare(one.deleted_at));
  const failed = bin.error ?? lists.error ?? back.error;
  return (
    <main className="mx-auto max-w-3xl px-4 py-6 sm:px-8">
      <title>Bin · Zephyrant</title>
      <h1 className="font-serif text-3xl font-semibold">Bin</h1>
      <p className="mt-1 text-soft">
        A deleted case or list of quotes stays here for thirty days.{" "}
        <Link className="text-choice underline" to="/">
          To your cases
        </Link>
      </p>
      {failed && (
        <p role="alert" className="mt-2 text-wrong">
          {failed.message}
        </p>
      )}
      {bin.data && lists.data && gone.length === 0 && (
        <p className="mt-6 font-serif text-xl">The bin is empty.</p>
      )}
      {gone.length > 0 && (
        <ul className="mt-4 rounded-lg border border-rule bg-sheet">
          {gone.map((each) => (
            <li
              key={each.id}
              className="flex flex-wrap items-baseline gap-x-4 border-b border-rule px-4 py-2.5 last:border-0"
            >
              <span className="mr-auto font-serif text-lg font-semibold">
                {each.name || (each.isList ? "Unnamed list" : "Unnamed case")}
                {each.isList && (
                  <span className="ml-2 font-sans text-sm font-normal text-soft">
                    list of quotes
                  </span>
                )}
              </span>
              <span className="text-sm text-soft">
                deleted {moment(each.deleted_at)}, kept until {day(each.kept_until)}
              </span>
              <button className="text-choice underline" onClick={() => back.mutate(each)}>
                Bring back
              </button>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
