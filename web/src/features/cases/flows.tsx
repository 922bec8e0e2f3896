import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ask, client } from "../../api/client";
import { Sheet } from "../../ui/sheet";
import { useOpened } from "../../ui/start";

/** Flows without a loan round them: pasted or opened, they become a case that asks for the rate. */
export function FlowsSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const opened = useOpened();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState("");
  const [name, setName] = useState("");
  const [currency, setCurrency] = useState("EUR");
  const start = useMutation({
    mutationFn: () =>
      ask(client.POST("/api/v1/cases/from-flows", { body: { text, name, currency } })),
    onSuccess: opened,
  });
  const field = "rounded border border-rule-strong bg-sheet px-2.5 py-1 placeholder:text-soft";
  return (
    <Sheet
      title="Flows"
      about="Days and amounts without a loan round them: every rate that fits is found."
      open={open}
      onOpen={onOpen}
    >
      <div className="mt-4 flex flex-wrap gap-3">
        <input
          aria-label="Name of the flows"
          placeholder="Name"
          value={name}
          className={`${field} grow`}
          onChange={(event) => setName(event.target.value)}
        />
        <input
          aria-label="Currency of the flows"
          value={currency}
          maxLength={3}
          className={`${field} w-20`}
          onChange={(event) => setCurrency(event.target.value.toUpperCase())}
        />
      </div>
      <input
        ref={input}
        type="file"
        accept=".csv,.txt,text/csv"
        aria-label="Flows to open"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) {
            setName((now) => now || file.name.replace(/\.\w+$/, ""));
            void file.text().then(setText);
          }
          event.target.value = "";
        }}
      />
      <textarea
        aria-label="Days and amounts"
        rows={10}
        value={text}
        placeholder={"date;amount\n1 Mar 2027;-186,400\n1 Sep 2028;52,000"}
        className={`${field} mt-3 w-full font-mono text-sm`}
        onChange={(event) => setText(event.target.value)}
      />
      <p className="text-sm text-soft">
        Columns date and amount (below zero what goes out), or date, out and in.
      </p>
      <div className="mt-3 flex gap-3">
        <button
          className="rounded border border-rule-strong px-3 py-1"
          onClick={() => input.current?.click()}
        >
          Open a file
        </button>
        <button
          className="ml-auto rounded bg-ink px-4 py-1.5 font-semibold text-paper"
          onClick={() => start.mutate()}
        >
          Find the rate
        </button>
      </div>
      {start.error && (
        <p role="alert" className="mt-3 text-wrong">
          {start.error.message}
        </p>
      )}
    </Sheet>
  );
}
