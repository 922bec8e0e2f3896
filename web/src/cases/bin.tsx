import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask, client } from "../api/client";
import { day, moment } from "../ui/moment";

/** What was deleted in the last thirty days. */
export function BinPage() {
  const queries = useQueryClient();
  const bin = useQuery({
    queryKey: ["bin"],
    queryFn: () => ask(client.GET("/api/cases/bin")),
    staleTime: 0,
  });
  const back = useMutation({
    mutationFn: (id: string) =>
      ask(client.POST("/api/cases/{case_id}/undelete", { params: { path: { case_id: id } } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["cases"] });
      return queries.invalidateQueries({ queryKey: ["bin"] });
    },
  });
  const failed = bin.error ?? back.error;
  return (
    <main className="mx-auto max-w-3xl px-4 py-6 sm:px-8">
      <title>Bin · Zephyrant</title>
      <h1 className="font-serif text-3xl font-semibold">Bin</h1>
      <p className="mt-1 text-soft">
        A deleted case stays here for thirty days.{" "}
        <Link className="text-choice underline" to="/">
          To your cases
        </Link>
      </p>
      {failed && (
        <p role="alert" className="mt-2 text-wrong">
          {failed.message}
        </p>
      )}
      {bin.data?.length === 0 && <p className="mt-6 font-serif text-xl">The bin is empty.</p>}
      {bin.data && bin.data.length > 0 && (
        <ul className="mt-4 rounded-lg border border-rule bg-sheet">
          {bin.data.map((gone) => (
            <li
              key={gone.id}
              className="flex flex-wrap items-baseline gap-x-4 border-b border-rule px-4 py-2.5 last:border-0"
            >
              <span className="mr-auto font-serif text-lg font-semibold">
                {gone.name || "Unnamed case"}
              </span>
              <span className="text-sm text-soft">
                deleted {moment(gone.deleted_at)}, kept until {day(gone.kept_until)}
              </span>
              <button className="text-choice underline" onClick={() => back.mutate(gone.id)}>
                Bring back
              </button>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
