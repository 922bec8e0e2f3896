import { useMutation } from "@tanstack/react-query";
import { ask, client, type Asides, type Content, type Variations } from "../../api/client";
import { inMarks, trimmed } from "../../ui/numbers";
import { StillWorking } from "../../ui/still-working";
import { useDesk } from "../../hooks/use-desk";
import { Sheet } from "../../ui/sheet";
import { useOpened } from "../../ui/start";
import { useSettled } from "../../hooks/use-settled";
import { askables, asked, pathOf, titleOf } from "./figures";
import { resultName, resultsOf } from "./results";
import { Trend, useResult } from "./trend";
import { useSweep, workedOf } from "./use-sensitivity";
import { FIELD } from "./what-if";

type MovesAside = NonNullable<Asides["moves"]>;

interface Props {
  content: Content;
  moves: MovesAside | null;
  onMoves: (moves: MovesAside) => void;
  open: boolean;
  onOpen: (open: boolean) => void;
}

const ANSWER = "answer";
/** Where a point is not worked yet. */
const TO_COME = "…";

/** The figures that can be varied: path and name. */
function variables({ statement }: Content): [string, string][] {
  const unknown = asked(statement);
  return askables(statement)
    .filter((name) => name !== unknown)
    .map((name) => [pathOf(statement, name), titleOf(name).toLowerCase()]);
}

/** One figure to vary: which, and over what. */
function Vary({
  label,
  path,
  typed,
  used,
  options,
  none,
  onPath,
  onTyped,
}: {
  label: string;
  path: string;
  typed: string;
  used: string | undefined;
  options: [string, string][];
  none: string | undefined;
  onPath: (path: string) => void;
  onTyped: (typed: string) => void;
}) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <select
        aria-label={label}
        value={path}
        className={FIELD}
        onChange={(event) => onPath(event.target.value)}
      >
        {none && <option value="">{none}</option>}
        {options.map(([value, name]) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </select>
      {path && (
        <label className="min-w-0 grow text-soft">
          over{" "}
          <input
            aria-label={`Values of the ${label.toLowerCase()}`}
            value={typed}
            placeholder={used ?? "5.5 to 7 by 0.125"}
            maxLength={2000}
            className={`${FIELD} w-full max-w-sm text-ink`}
            onChange={(event) => onTyped(event.target.value)}
          />
        </label>
      )}
    </div>
  );
}

/** What moves the loan: results against one figure, or one result against two. */
export function WhatMoves({ content, moves, onMoves, open, onOpen }: Props) {
  const { marks } = useDesk();
  const { statement } = content;
  const options = variables(content);
  const paths = options.map(([path]) => path);
  const [one, two] = moves?.varied ?? [{ path: "rate.percent", typed: "" }];
  const first = one && paths.includes(one.path) ? one.path : (paths[0] ?? "");
  const second = two && paths.includes(two.path) && two.path !== first ? two.path : "";
  const typed = [one?.path === first ? one.typed : "", second && two ? two.typed : ""] as const;
  const results = moves?.results ?? [ANSWER, "total_interest"];
  const varied = [
    { path: first, typed: typed[0] },
    ...(second ? [{ path: second, typed: typed[1] }] : []),
  ];
  const change = (changed: Partial<MovesAside>) => onMoves({ varied, results, ...changed });
  const vary = (place: 0 | 1, path: string, text: string) => {
    const next = [...varied];
    if (path) next[place] = { path, typed: text };
    else next.length = place;
    change({ varied: next });
  };
  const asking = useSettled(
    JSON.stringify({ statement, varied, results: second ? results.slice(0, 1) : results }),
    120,
  );
  const found = useSweep(asking, open);
  const opened = useOpened();
  const name = (path: string) => options.find(([each]) => each === path)?.[1] ?? path;
  const shown = (path: string, value: string) =>
    `${inMarks(path.endsWith("percent") ? trimmed(value) : value, marks)}${path.endsWith("percent") ? " %" : ""}`;
  const take = useMutation({
    mutationFn: async (values: Record<string, string>) => {
      const moved = await ask(client.POST("/api/v1/ask/variant", { body: { statement, values } }));
      const said = Object.entries(values).map(
        ([path, value]) => `${name(path)} ${shown(path, value)}`,
      );
      const called = `${statement.name || "Unnamed case"}, ${said.join(", ")}`.slice(0, 200);
      return ask(
        client.POST("/api/v1/cases", {
          body: { ...content, statement: { ...moved, name: called } },
        }),
      );
    },
    onSuccess: opened,
  });
  const { data } = found;
  const [worked, all] = data ? workedOf(data) : [0, 1];
  const busy = found.isFetching || found.hasNextPage;
  const told = { data, name, shown, onTake: take.mutate };
  return (
    <Sheet
      title="What moves it"
      about="The loan worked anew for every value of one figure, or of two."
      open={open}
      onOpen={onOpen}
      wide
    >
      <div className="mt-4 grid gap-2">
        <Vary
          label="Figure varied"
          path={first}
          typed={typed[0]}
          used={data?.varied[0]?.path === first ? data.varied[0].typed : undefined}
          options={options}
          none={undefined}
          onPath={(path) => vary(0, path, "")}
          onTyped={(text) => vary(0, first, text)}
        />
        <Vary
          label="Second figure varied"
          path={second}
          typed={typed[1]}
          used={data?.varied[1]?.path === second ? data.varied[1]?.typed : undefined}
          options={options.filter(([path]) => path !== first)}
          none="and no other figure"
          onPath={(path) => vary(1, path, "")}
          onTyped={(text) => vary(1, second, text)}
        />
        <ResultChoice
          all={[ANSWER, ...resultsOf(statement)]}
          results={results}
          single={second !== ""}
          onChoose={(chosen) => change({ results: chosen })}
        />
      </div>
      <StillWorking busy={busy} share={worked < all ? worked / all : undefined} />
      {found.error ? (
        <p role="alert" className="mt-3 text-wrong">
          {found.error.message}
        </p>
      ) : (
        data && (
          <div aria-busy={busy} className="mt-4">
            {second && data.swept.values.length > 1 ? (
              <Grid {...told} data={data} />
            ) : (
              <List {...told} data={data} />
            )}
            <SmallChanges data={data} name={name} shown={shown} />
          </div>
        )
      )}
      {take.error && (
        <p role="alert" className="mt-3 text-wrong">
          {take.error.message}
        </p>
      )}
    </Sheet>
  );
}

/** Which results to see: any of them, or one where two figures are varied. */
function ResultChoice({
  all,
  results,
  single,
  onChoose,
}: {
  all: string[];
  results: string[];
  single: boolean;
  onChoose: (results: string[]) => void;
}) {
  const called = (each: string) => (each === ANSWER ? "the figure asked for" : resultName(each));
  return (
    <fieldset className="flex flex-wrap gap-x-4 gap-y-0.5 text-[0.95rem]">
      <legend className="text-sm text-soft">Results</legend>
      {all.map((each) => (
        <label key={each} className="flex items-baseline gap-1.5">
          <input
            type={single ? "radio" : "checkbox"}
            name="moves-results"
            checked={single ? results[0] === each : results.includes(each)}
            onChange={() => {
              if (single) onChoose([each]);
              else if (!results.includes(each))
                onChoose(all.filter((one) => [...results, each].includes(one)));
              else if (results.length > 1) onChoose(results.filter((one) => one !== each));
            }}
          />
          {called(each)}
        </label>
      ))}
    </fieldset>
  );
}

interface Told {
  data: Variations;
  name: (path: string) => string;
  shown: (path: string, value: string) => string;
  onTake: (values: Record<string, string>) => void;
}

/** Whether two decimal texts are the same number. */
const same = (one: string | null | undefined, other: string | undefined) =>
  typeof one === "string" && other !== undefined && trimmed(one) === trimmed(other);

/** One figure varied: a row for each value, and the curve of the first result. */
function List({ data, name, shown, onTake }: Told) {
  const result = useResult();
  const [axis] = data.varied;
  const values = data.swept.values[0] ?? [];
  const results = Object.keys(data.swept.results);
  const [worked] = workedOf(data);
  if (!axis) return null;
  return (
    <>
      <Trend data={data} name={name} shown={shown} />
      <div className="mt-3 overflow-x-auto">
        <table aria-label="What moves it" className="w-full">
          <thead>
            <tr className="border-b border-rule-strong text-sm text-soft">
              <th scope="col" className="py-1 text-left font-normal">
                {name(axis.path)}
              </th>
              {results.map((each) => (
                <th key={each} scope="col" className="py-1 pl-4 text-right font-normal">
                  {each === ANSWER ? "figure asked for" : resultName(each)}
                </th>
              ))}
              <td />
            </tr>
          </thead>
          <tbody>
            {values.map((value, row) => {
              const stands = same(data.standing[0], value);
              const reason = data.swept.reasons[String(row)];
              return (
                <tr
                  key={value}
                  className={`border-b border-rule ${stands ? "bg-owed-fill font-semibold" : ""}`}
                >
                  <th scope="row" className="py-1 text-left font-[inherit]">
                    {shown(axis.path, value)}
                    {stands && <span className="text-sm text-soft"> as it stands</span>}
                  </th>
                  {reason ? (
                    <td colSpan={results.length} className="py-1 pl-4 text-right text-soft">
                      {reason}
                    </td>
                  ) : (
                    results.map((each) => (
                      <td key={each} className="py-1 pl-4 text-right">
                        {row < worked
                          ? result(each, data.swept.results[each]?.[row]?.[0])
                          : TO_COME}
                      </td>
                    ))
                  )}
                  <td className="py-1 pl-4 text-right font-normal">
                    {!stands && !reason && row < worked && (
                      <button
                        className="text-choice underline"
                        aria-label={`Open ${name(axis.path)} ${shown(axis.path, value)} as a case`}
                        onClick={() => onTake({ [axis.path]: value })}
                      >
                        open
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** Two figures varied: one result as a grid, darker where it is more. */
function Grid({ data, name, shown, onTake }: Told) {
  const result = useResult();
  const [down, across] = data.varied;
  const [first] = Object.keys(data.swept.results);
  const [rows, columns] = [data.swept.values[0] ?? [], data.swept.values[1] ?? []];
  const cells = (first && data.swept.results[first]) || [];
  const numbers = cells.flat().flatMap((text) => (text === null ? [] : [Number(text)]));
  const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
  const [worked] = workedOf(data);
  if (!down || !across || !first) return null;
  return (
    <div className="max-h-[70vh] overflow-auto">
      <table aria-label="What moves it" className="text-sm">
        <caption className="text-left text-soft">
          {first === ANSWER ? "The figure asked for" : resultName(first)}, by {name(down.path)}{" "}
          (down) and {name(across.path)} (across); darker is more
        </caption>
        <thead>
          <tr>
            <td />
            {columns.map((value) => (
              <th
                key={value}
                scope="col"
                className="px-1.5 py-1 text-right font-semibold whitespace-nowrap"
              >
                {shown(across.path, value)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((value, row) => (
            <tr key={value}>
              <th scope="row" className="pr-2 text-right font-semibold whitespace-nowrap">
                {shown(down.path, value)}
              </th>
              {columns.map((other, column) => {
                const text = cells[row]?.[column] ?? null;
                const place = row * columns.length + column;
                const stands = same(data.standing[0], value) && same(data.standing[1], other);
                const part = text === null ? 0 : (Number(text) - low) / (high - low || 1);
                return (
                  <td
                    key={other}
                    className={`p-0 text-right ${stands ? "outline-3 -outline-offset-2 outline-choice" : ""}`}
                    style={{
                      background: `color-mix(in srgb, var(--principal) ${Math.round(4 + 30 * part)}%, transparent)`,
                    }}
                  >
                    <button
                      className="w-full px-1.5 py-0.5 text-right whitespace-nowrap hover:underline"
                      title={
                        data.swept.reasons[String(place)] ??
                        (stands ? "as it stands" : "Open as a case")
                      }
                      disabled={stands || text === null}
                      onClick={() => onTake({ [down.path]: value, [across.path]: other })}
                    >
                      {text !== null || place < worked ? result(first, text) : TO_COME}
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What a little more of each figure does to the one asked for. */
function SmallChanges({ data, name, shown }: Omit<Told, "onTake">) {
  const result = useResult();
  if (data.small_changes.length === 0) return null;
  return (
    <table aria-label="A little more" className="mt-5 w-full max-w-lg">
      <caption className="text-left text-sm text-soft">
        A little more, and what it does to the figure asked for
      </caption>
      <tbody>
        {data.small_changes.map((change) => (
          <tr key={change.path} className="border-b border-rule">
            <th scope="row" className="py-1 text-left font-normal">
              {name(change.path)} + {shown(change.path, change.by)}
            </th>
            <td className="py-1 pl-4 text-right">{result(ANSWER, change.value)}</td>
            <td className="py-1 pl-4 text-right font-semibold">
              {Number(change.change) > 0 ? "+" : ""}
              {result(ANSWER, change.change)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
