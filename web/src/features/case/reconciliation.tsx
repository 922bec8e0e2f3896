import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ask, client, type Reconciliation, type Matched, type Statement } from "../../api/client";
import { inMarks } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { Sheet } from "../../ui/sheet";

const COLUMNS = [
  "number",
  "date",
  "opening",
  "interest",
  "principal",
  "payment",
  "closing",
] as const;
type Column = (typeof COLUMNS)[number];
const NAMES: Record<Column, string> = {
  number: "Number of the payment",
  date: "Due",
  opening: "Opening balance",
  interest: "Interest",
  principal: "Principal",
  payment: "Payment",
  closing: "Closing balance",
};

interface Props {
  statement: Statement;
  open: boolean;
  onOpen: (open: boolean) => void;
}

function Ask({
  found,
  onMatched,
}: {
  found: Reconciliation;
  onMatched: (matched: Matched) => void;
}) {
  const [matched, setMatched] = useState<Matched>(found.matched);
  return (
    <form
      className="mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        onMatched(matched);
      }}
    >
      <p className="font-semibold">Which column is which?</p>
      <div className="mt-1 overflow-x-auto">
        <table className="text-sm">
          <thead>
            <tr>
              {found.names.map((name, place) => (
                <th key={place} className="border-b border-rule px-2 text-left">
                  {name || `column ${place + 1}`}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.sample.map((row, line) => (
              <tr key={line} className="text-soft">
                {row.map((cell, place) => (
                  <td key={place} className="px-2 whitespace-nowrap">
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-2 grid gap-1.5">
        {COLUMNS.map((column) => (
          <label key={column} className="flex items-center justify-between gap-4">
            {NAMES[column]}
            <select
              value={matched[column] ?? ""}
              className="rounded border border-rule-strong bg-sheet px-2 py-1"
              onChange={(event) => {
                const chosen = event.target.value;
                setMatched({ ...matched, [column]: chosen === "" ? null : Number(chosen) });
              }}
            >
              <option value="">is not there</option>
              {found.names.map((name, place) => (
                <option key={place} value={place}>
                  {name || `column ${place + 1}`}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
      <button className="mt-3 rounded bg-ink px-4 py-1.5 font-semibold text-paper">
        Compare these columns
      </button>
    </form>
  );
}

function Told({ found }: { found: Reconciliation }) {
  const { marks } = useDesk();
  const plain = (text: string) => (/^-?[\d.]+$/.test(text) ? inMarks(text, marks) : text);
  return (
    <div className="mt-4">
      <p role="status" className="font-serif text-xl font-semibold">
        {found.says}
      </p>
      <p className="text-soft">{found.compared} rows compared.</p>
      {found.unread.length > 0 && (
        <ul role="alert" className="mt-2 border-l-2 border-wrong pl-3">
          {found.unread.slice(0, 20).map((each) => (
            <li key={each.field + each.message}>
              <b>{each.field}</b>: {each.message}
            </li>
          ))}
        </ul>
      )}
      {found.differences.length > 0 && (
        <table className="mt-3 w-full text-[0.95rem]">
          <thead>
            <tr className="border-b border-ink text-left text-sm text-soft">
              <th className="font-normal">No.</th>
              <th className="font-normal">Figure</th>
              <th className="text-right font-normal">Ours</th>
              <th className="text-right font-normal">Theirs</th>
              <th className="text-right font-normal">Gap</th>
            </tr>
          </thead>
          <tbody>
            {found.differences.map((each) => (
              <tr key={`${each.number} ${each.column}`} className="border-b border-rule">
                <td>{each.number}</td>
                <td>{NAMES[each.column]}</td>
                <td className="text-right">{plain(each.ours)}</td>
                <td className="text-right">{plain(each.theirs)}</td>
                <td className="text-right font-semibold">{plain(each.gap)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

/** Somebody's schedule held against ours, row by row. */
export function Against({ statement, open, onOpen }: Props) {
  const [text, setText] = useState("");
  const [tolerance, setTolerance] = useState("0.01");
  const input = useRef<HTMLInputElement>(null);
  const hold = useMutation({
    mutationFn: (matched: Matched | null) =>
      ask(
        client.POST("/api/v1/ask/reconciliation", {
          body: { statement, text, matched, tolerance },
        }),
      ),
  });
  const found = hold.data;
  return (
    <Sheet
      title="Hold theirs against ours"
      about="A schedule from elsewhere, as CSV: which rows differ, by how much, and where it began."
      open={open}
      onOpen={onOpen}
    >
      <input
        ref={input}
        type="file"
        accept=".csv,.txt,text/csv"
        aria-label="Schedule to hold against ours"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void file.text().then(setText);
          event.target.value = "";
        }}
      />
      <textarea
        aria-label="Their schedule"
        value={text}
        rows={6}
        placeholder="Paste their table here, with the names of its columns on top"
        className="mt-4 w-full rounded border border-rule-strong bg-sheet px-2.5 py-1.5 font-mono text-sm placeholder:text-soft"
        onChange={(event) => setText(event.target.value)}
      />
      <div className="mt-2 flex flex-wrap items-baseline gap-3">
        <button
          className="rounded border border-rule-strong px-3 py-1"
          onClick={() => input.current?.click()}
        >
          Open a file
        </button>
        <label>
          A figure may differ by{" "}
          <input
            value={tolerance}
            className="w-20 rounded border border-rule-strong bg-sheet px-2 py-1 text-right"
            onChange={(event) => setTolerance(event.target.value)}
          />
        </label>
        <button
          className="ml-auto rounded bg-ink px-4 py-1.5 font-semibold text-paper"
          onClick={() => hold.mutate(null)}
        >
          Compare
        </button>
      </div>
      {hold.error && (
        <p role="alert" className="mt-3 text-wrong">
          {hold.error.message}
        </p>
      )}
      {found?.ask && (
        <Ask key={found.names.join()} found={found} onMatched={(matched) => hold.mutate(matched)} />
      )}
      {found && !found.ask && <Told found={found} />}
    </Sheet>
  );
}
