import { useQuery } from "@tanstack/react-query";
import { useRef, type ReactNode } from "react";
import { Link } from "react-router";
import { ask, client, Refused, type CaseListed, type MarksWord } from "../api/client";
import { inMarks, trimmed } from "../ui/numbers";
import { useDesk } from "../ui/settings";
import { useOpenDocument, useStartCase } from "../ui/start";

const ASKED: Record<string, string> = {
  payment: "the payment",
  principal: "the amount lent",
  rate: "the rate",
  count: "the number of payments",
  balance: "the balance at the end",
};

function found(listed: CaseListed, marks: MarksWord): ReactNode {
  if (!listed.found) return <span className="text-soft">not whole yet</span>;
  const { unknown, value, reason } = listed.found;
  if (value === null || value === undefined)
    return <span className="text-soft">no answer: {reason}</span>;
  if (unknown === "rate") return <b>{inMarks(trimmed(value), marks)} %</b>;
  if (unknown === "count") return <b>{inMarks(value, marks)} payments</b>;
  return (
    <>
      <b>{inMarks(value, marks)}</b> {listed.currency}
    </>
  );
}

function when(moment: string): string {
  const date = new Date(moment);
  const today = date.toDateString() === new Date().toDateString();
  return today
    ? date.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })
    : date.toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
}

function Row({ listed }: { listed: CaseListed }) {
  const { marks } = useDesk();
  return (
    <li className="border-b border-rule last:border-0">
      <Link
        to={`/cases/${listed.id}`}
        className="grid grid-cols-1 gap-x-6 px-4 py-2.5 hover:bg-paper sm:grid-cols-[minmax(0,5fr)_minmax(0,3fr)_minmax(0,5fr)_5.5rem]"
      >
        <span className="truncate font-serif text-lg font-semibold">
          {listed.name || "Unnamed case"}
        </span>
        <span className="self-center text-soft">
          {listed.found ? `asks for ${ASKED[listed.found.unknown]}` : ""}
        </span>
        <span className="self-center sm:text-right">{found(listed, marks)}</span>
        <span className="self-center text-sm text-soft sm:text-right">
          {when(listed.changed_at)}
        </span>
      </Link>
    </li>
  );
}

function OpenFile() {
  const open = useOpenDocument();
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        aria-label="Loan document to open"
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
        onClick={() => input.current?.click()}
      >
        Open a document
      </button>
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

export function CasesPage() {
  const cases = useQuery({
    queryKey: ["cases"],
    queryFn: () => ask(client.GET("/api/cases")),
    staleTime: 0,
  });
  const start = useStartCase();
  return (
    <main className="mx-auto max-w-[1280px] px-4 py-6 sm:px-8">
      <title>Cases · Zephyrant</title>
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto font-serif text-3xl font-semibold">Cases</h1>
        <OpenFile />
        <button
          className="rounded bg-ink px-4 py-1.5 font-semibold text-paper"
          onClick={() => start.mutate()}
        >
          New case
        </button>
      </div>
      {start.error && (
        <p role="alert" className="mt-2 text-wrong">
          {start.error.message}
        </p>
      )}
      {cases.error && (
        <p role="alert" className="mt-4 text-wrong">
          The cases cannot be fetched: {cases.error.message}
        </p>
      )}
      {cases.data?.length === 0 && (
        <div className="mt-10 max-w-prose">
          <p className="font-serif text-xl">No cases yet.</p>
          <p className="mt-2 text-soft">
            A case is one loan: what is known of it, a ? for what is not, and everything that
            follows. Start one with “New case”, or press n.
          </p>
        </div>
      )}
      {cases.data && cases.data.length > 0 && (
        <ul className="mt-4 rounded-lg border border-rule bg-sheet">
          {cases.data.map((listed) => (
            <Row key={listed.id} listed={listed} />
          ))}
        </ul>
      )}
    </main>
  );
}
