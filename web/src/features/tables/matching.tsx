import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, Refused, type Defaults, type TableOpened } from "../../api/client";
import { everyChosen, everyOptions } from "../../ui/choices";
import { useDesk } from "../../hooks/use-desk";
import { ANSWERS, FIELDS } from "./names";
import { answerWith } from "../../hooks/answer-with";

const FIELD = "rounded border border-rule-strong bg-sheet px-2 py-1";
const MARKS = ["comma-point", "point-comma", "plain"] as const;

/** The roundings a table can have, as the document writes them. */
const ROUNDINGS: [string, string, Defaults["rounding"]][] = [
  ["nearest", "to the nearest minor unit", { payment: "nearest", interest: "nearest" }],
  ["up", "up to the minor unit", { payment: "up", interest: "nearest" }],
  ["up-0.05", "up to 0.05", { payment: "up", to: "0.05", interest: "nearest" }],
  ["up-1", "up to whole units", { payment: "up", to: "1", interest: "nearest" }],
] as unknown as [string, string, Defaults["rounding"]][];

function roundingName(rounding: Defaults["rounding"]): string {
  const found = ROUNDINGS.find(
    ([, , each]) =>
      each.payment === rounding.payment && (each.to ?? null) === (rounding.to ?? null),
  );
  return found?.[0] ?? "nearest";
}

/** Which column is which figure, what holds for every row, and what has to be asked. */
export function Matching({ table }: { table: TableOpened }) {
  const { words } = useDesk();
  const queries = useQueryClient();
  const [columns, setColumns] = useState(table.columns);
  const [defaults, setDefaults] = useState<Defaults>(table.defaults);
  const [answered, setAnswered] = useState<string[]>(table.defaults_said);
  const looked = useQuery({
    queryKey: ["table-look", table.id, columns],
    queryFn: () =>
      ask(
        client.POST("/api/v1/tables/{table_id}/ask/reading", {
          params: { path: { table_id: table.id } },
          body: { columns },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
  const set = (changed: Partial<Defaults>) => {
    setDefaults((now) => ({ ...now, ...changed }));
    setAnswered((now) => [...new Set([...now, ...Object.keys(changed)])]);
  };
  const follows = (looked.data?.defaults ?? {}) as Partial<Defaults>;
  const questions = looked.data?.questions ?? [];
  const work = useMutation({
    mutationFn: () => {
      const stated: Partial<Defaults> = {};
      for (const [name, value] of Object.entries({ ...defaults, ...follows })) {
        const asked = questions.some((question) => question.about === name);
        // What has to be asked is only sent where it was answered here.
        if (!asked || answered.includes(name)) Object.assign(stated, { [name]: value });
      }
      return ask(
        client.PUT("/api/v1/tables/{table_id}/matching", {
          params: { path: { table_id: table.id } },
          body: { columns, defaults: stated as Defaults },
        }),
      );
    },
    onSuccess: (opened) => answerWith(queries, ["table", table.id], opened),
  });
  const fieldOf = (place: number) =>
    Object.entries<number>(columns).find(([, at]) => at === place)?.[0] ?? "";
  const rematch = (place: number, field: string) => {
    const next: TableOpened["columns"] = Object.fromEntries(
      Object.entries(columns).filter(([name, at]) => at !== place && name !== field),
    );
    setColumns(field ? { ...next, [field]: place } : next);
  };
  const errors = work.error instanceof Refused ? work.error.errors : [];
  const wrongAt = (about: string) => errors.find((error) => error.field === about)?.message;
  const choice = (
    name: Exclude<keyof Defaults, "rounding">,
    label: string,
    options: readonly (readonly [string, string])[],
  ) => (
    <label className="flex items-baseline gap-2">
      <span className="text-soft">{label}</span>
      <select
        value={String(defaults[name] ?? "")}
        className={FIELD}
        onChange={(event) => set({ [name]: event.target.value })}
      >
        {options.map(([value, shown]) => (
          <option key={value} value={value}>
            {shown}
          </option>
        ))}
      </select>
    </label>
  );
  /** Whether a cell is the unknown of its row: marked so, or empty where none is. */
  const isAsked = (row: string[], place: number) =>
    row[place]?.trim() === "?" ||
    (!row[place]?.trim() &&
      ["principal", "percent", "count", "payment"].includes(fieldOf(place)) &&
      !row.some((cell) => cell.trim() === "?"));
  const periods = everyOptions({ every: defaults.every }, words.periods);
  return (
    <section aria-label="Columns">
      {table.notes.map((note) => (
        <p key={note} className="mt-2 text-soft">
          {note}
        </p>
      ))}
      <h2 className="mt-5 font-serif text-xl font-semibold">Which column is what</h2>
      <div className="mt-2 overflow-x-auto rounded-lg border border-rule bg-sheet">
        <table aria-label="Columns of the file" className="text-[0.95rem]">
          <thead>
            <tr>
              {table.names.map((name, place) => (
                <th key={place} scope="col" className="px-3 pt-2 text-left whitespace-nowrap">
                  {name}
                </th>
              ))}
            </tr>
            <tr className="border-b border-rule">
              {table.names.map((name, place) => (
                <td key={place} className="px-3 pb-2">
                  <select
                    aria-label={`${name} is`}
                    value={fieldOf(place)}
                    className={`${FIELD} ${fieldOf(place) ? "font-semibold" : "text-soft"}`}
                    onChange={(event) => rematch(place, event.target.value)}
                  >
                    <option value="">kept as it is</option>
                    {Object.entries(FIELDS).map(([field, label]) => (
                      <option key={field} value={field}>
                        {label}
                      </option>
                    ))}
                  </select>
                </td>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.sample.map((row, line) => (
              <tr key={line} className="border-b border-rule last:border-0">
                {row.map((cell, place) => (
                  <td key={place} className="max-w-60 truncate px-3 py-1">
                    {isAsked(row, place) ? (
                      <span className="rounded-full bg-unknown px-2 font-semibold text-on-unknown">
                        ?
                      </span>
                    ) : (
                      cell
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {questions.length > 0 && (
        <>
          <h2 className="mt-5 font-serif text-xl font-semibold">What cannot be guessed</h2>
          {questions.map((question) => (
            <fieldset key={question.about} className="mt-2">
              <legend>{question.says}</legend>
              <div className="flex flex-wrap gap-x-6">
                {question.choices.map((value) => (
                  <label key={value} className="flex items-baseline gap-2">
                    <input
                      type="radio"
                      name={question.about}
                      checked={
                        answered.includes(question.about) && defaults[question.about] === value
                      }
                      onChange={() => set({ [question.about]: value })}
                    />
                    {ANSWERS[value] ?? value}
                  </label>
                ))}
              </div>
              {wrongAt(question.about) && !answered.includes(question.about) && (
                <p role="alert" className="text-wrong">
                  Choose one: the rows depend on it.
                </p>
              )}
            </fieldset>
          ))}
        </>
      )}
      <h2 className="mt-5 font-serif text-xl font-semibold">Where no column says so</h2>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        {choice(
          "currency",
          "Currency",
          words.currencies.map((each) => [each.code, each.code] as const),
        )}
        {choice("quoted", "Rates are quoted", [
          ["nominal", "nominal a year"],
          ["effective", "effective a year"],
          ["periodic", "for each period"],
          ["continuous", "compounded continuously"],
          ["flat", "flat (add-on)"],
        ])}
        <label className="flex items-baseline gap-2">
          <span className="text-soft">compounded</span>
          <select
            value={String(defaults.compounding ?? "")}
            className={FIELD}
            onChange={(event) =>
              set({
                compounding: event.target.value || null,
              })
            }
          >
            <option value="">as it is paid</option>
            {words.periods.map((period) => (
              <option key={period.name} value={period.name}>
                {period.often}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-baseline gap-2">
          <span className="text-soft">Paid</span>
          <select
            value={String(defaults.every)}
            className={FIELD}
            onChange={(event) => set({ every: everyChosen(event.target.value) })}
          >
            {periods.map((option) => (
              <option key={option.value} value={option.value}>
                {option.label}
              </option>
            ))}
          </select>
        </label>
        {choice("timing", "at the", [
          ["in-arrears", "end, in arrears"],
          ["in-advance", "start, in advance"],
        ])}
        <label className="flex items-baseline gap-2">
          <span className="text-soft">Payments rounded</span>
          <select
            value={roundingName(defaults.rounding)}
            className={FIELD}
            onChange={(event) => {
              const found = ROUNDINGS.find(([name]) => name === event.target.value);
              if (found) set({ rounding: found[2] });
            }}
          >
            {ROUNDINGS.map(([name, label]) => (
              <option key={name} value={name}>
                {label}
              </option>
            ))}
          </select>
        </label>
        {choice("count_in", "A bare term counts", [
          ["payments", "payments"],
          ["months", "months"],
          ["years", "years"],
        ])}
        {!questions.some((question) => question.about === "marks") &&
          !follows.marks &&
          choice(
            "marks",
            "The decimal mark is",
            MARKS.map((each) => [each, ANSWERS[each] ?? each] as const),
          )}
        <label className="flex items-baseline gap-2">
          <span className="text-soft">Owed is told after payment</span>
          <input
            value={defaults.after ? String(defaults.after) : ""}
            inputMode="numeric"
            placeholder="none"
            className={`${FIELD} w-20 text-right`}
            onChange={(event) =>
              set({ after: Number(event.target.value.replace(/\D/g, "").slice(0, 5)) })
            }
          />
        </label>
        {columns.start !== undefined && (
          <label className="flex items-baseline gap-2">
            <span className="text-soft">or on the day</span>
            <input
              type="date"
              value={defaults.owed_on ?? ""}
              className={FIELD}
              onChange={(event) => set({ owed_on: event.target.value || null })}
            />
          </label>
        )}
      </div>
      {(looked.error ?? work.error) && (
        <p role="alert" className="mt-4 text-wrong">
          {looked.error?.message ?? work.error?.message}
        </p>
      )}
      <button
        className="mt-5 rounded bg-ink px-5 py-2 font-semibold text-paper"
        disabled={work.isPending}
        onClick={() => work.mutate()}
      >
        Solve {table.rows.toLocaleString("en")} {table.rows === 1 ? "row" : "rows"}
      </button>
    </section>
  );
}
