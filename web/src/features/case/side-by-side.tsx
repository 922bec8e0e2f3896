import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { ask, client, type Asides, type SideBySide, type CaseOpened } from "../../api/client";
import { Menu } from "../../ui/menu";
import { CannotOpen } from "../../ui/cannot-open";
import { useDesk } from "../../hooks/use-desk";
import { Taking, useTaking } from "../../ui/taking";
import { useSettled } from "../../hooks/use-settled";
import { Overlay, Swatch } from "./overlay";
import { MOST_PINS } from "./pins";

/** Finds another case to pin. */
function AddCase({ taken, onAdd }: { taken: string[]; onAdd: (id: string) => void }) {
  const [typed, setTyped] = useState("");
  const [open, setOpen] = useState(false);
  const q = useSettled(typed.trim(), 150);
  const found = useQuery({
    queryKey: ["cases", "to-pin", q],
    queryFn: ({ signal }) =>
      ask(
        client.GET("/api/v1/cases", {
          params: { query: { q, sort: "changed", start: 0 } },
          signal,
        }),
      ),
    enabled: open,
    staleTime: 10_000,
  });
  const cases = (found.data?.items ?? []).filter((each) => !taken.includes(each.id)).slice(0, 8);
  if (!open)
    return (
      <button className="rounded border border-rule-strong px-3 py-1" onClick={() => setOpen(true)}>
        Pin another case
      </button>
    );
  return (
    <div className="max-w-md rounded border border-rule bg-sheet p-3">
      <input
        autoFocus
        type="search"
        aria-label="Find a case to pin"
        placeholder="Find by name, amount, note or #tag"
        value={typed}
        className="w-full rounded border border-rule-strong bg-sheet px-3 py-1.5 placeholder:text-soft"
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Escape") setOpen(false);
        }}
      />
      <ul aria-label="Cases to pin" className="mt-2">
        {cases.map((each) => (
          <li key={each.id}>
            <button
              className="block w-full rounded px-2 py-1 text-left hover:bg-paper"
              onClick={() => {
                setOpen(false);
                setTyped("");
                onAdd(each.id);
              }}
            >
              {each.name || "Unnamed case"}
            </button>
          </li>
        ))}
        {found.data && cases.length === 0 && (
          <li className="px-2 py-1 text-soft">No other case holds that.</li>
        )}
      </ul>
    </div>
  );
}

type Row = SideBySide["terms"][number];

function Rows({ title, rows, beside }: { title: string; rows: Row[]; beside: SideBySide }) {
  return (
    <tbody>
      <tr>
        <th
          scope="rowgroup"
          colSpan={beside.names.length + 1}
          className="pt-4 pb-1 text-left font-serif text-lg font-semibold"
        >
          {title}
        </th>
      </tr>
      {rows.map((row) => (
        <tr key={row.name} className="border-t border-rule align-top">
          <th
            scope="row"
            className={`py-1.5 pr-4 text-left font-normal ${row.stands_out ? "text-ink" : "text-soft"}`}
          >
            {row.stands_out && (
              <span
                className="mr-2 inline-block size-2 rounded-full bg-choice"
                role="img"
                aria-label="differs"
              />
            )}
            {row.name}
          </th>
          {row.cells.map((cell, place) => (
            <td
              key={place}
              className={`px-4 py-1.5 text-left ${place === beside.base ? "bg-owed-fill" : ""}`}
            >
              <span className={row.stands_out ? "font-semibold" : "text-soft"}>
                {cell.text ?? "–"}
              </span>
              {place !== beside.base && cell.differs && (
                <span className="block text-sm whitespace-nowrap text-soft">
                  {cell.differs}
                  {cell.percent && <> · {cell.percent}</>}
                </span>
              )}
            </td>
          ))}
        </tr>
      ))}
    </tbody>
  );
}

function Opened({ opened }: { opened: CaseOpened }) {
  const { marks } = useDesk();
  const queries = useQueryClient();
  const [asides, setAsides] = useState(opened.asides);
  const [failed, setFailed] = useState<string>();
  const table = useQuery({
    queryKey: ["beside", opened.id, marks.name, asides.pins, asides.base],
    queryFn: ({ signal }) =>
      ask(
        client.GET("/api/v1/cases/{case_id}/side-by-side", {
          params: { path: { case_id: opened.id } },
          signal,
        }),
      ),
    staleTime: 0,
    gcTime: 0,
    placeholderData: (before) => before,
  });
  const change = async (changed: Partial<Asides>) => {
    const next = { ...asides, ...changed };
    try {
      // What is shown is worked from what is kept: kept first.
      await ask(
        client.PUT("/api/v1/cases/{case_id}/asides", {
          params: { path: { case_id: opened.id } },
          body: next,
        }),
      );
      setAsides(next);
      setFailed(undefined);
      queries.removeQueries({ queryKey: ["case", opened.id] });
    } catch (error) {
      setFailed(error instanceof Error ? error.message : "It could not be kept.");
    }
  };
  const takeOff = (place: number) => {
    const pins = asides.pins.filter((_, number) => number !== place - 1);
    const { base } = asides;
    void change({ pins, base: base === place ? 0 : base > place ? base - 1 : base });
  };
  const beside = table.data;
  const taking = useTaking();
  const file = (what: string, kind: string) => () =>
    taking.take(what, `/api/v1/cases/${opened.id}/side-by-side/file?kind=${kind}`);
  const name = opened.statement.name || "Unnamed case";
  return (
    <main className="mx-auto max-w-[1280px] px-4 py-4 sm:px-8">
      <title>{`${name}, side by side · Zephyrant`}</title>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h1 className="mr-auto font-serif text-2xl font-semibold">Side by side</h1>
        <span className="flex items-baseline gap-4 text-sm text-soft print:hidden">
          <Link className="text-choice underline" to={`/cases/${opened.id}?show=trail`}>
            Pin from the trail
          </Link>
          <button className="hover:text-ink" onClick={() => print()}>
            Print
          </button>
          <Menu
            name="Take out"
            actions={[
              { label: "Pages to print (PDF)", run: file("the pages", "pdf") },
              { label: "Workbook (XLSX)", run: file("the workbook", "xlsx") },
              { label: "Table (CSV)", run: file("the table", "csv") },
            ]}
          >
            Take out <span aria-hidden>▾</span>
          </Menu>
        </span>
      </div>
      <p className="text-soft">
        <Link className="text-choice underline" to={`/cases/${opened.id}`}>
          {name}
        </Link>{" "}
        and what is pinned beside it, each held against the base.
      </p>
      <Taking taking={taking} />
      {(table.error ?? failed) && (
        <p role="alert" className="mt-3 text-wrong">
          {table.error?.message ?? failed}
        </p>
      )}
      {beside && (
        <>
          {beside.names.length === 1 && (
            <p className="mt-4 max-w-prose font-serif text-xl">
              Nothing is pinned beside this case yet. Pin another case, or an answer from its trail.
            </p>
          )}
          <Overlay beside={beside} />
          <div className="mt-2 overflow-x-auto">
            <table aria-label="Side by side" className="w-full" aria-busy={table.isFetching}>
              <thead>
                <tr className="align-bottom">
                  <td className="w-52" />
                  {beside.names.map((each, place) => (
                    <th
                      key={place}
                      scope="col"
                      className={`min-w-40 px-4 pt-2 pb-1 text-left font-semibold ${place === beside.base ? "bg-owed-fill" : ""}`}
                    >
                      <Swatch place={place} />
                      <span className="block">{each}</span>
                      <span className="text-sm font-normal text-soft">
                        {beside.currencies[place]}
                      </span>
                      {beside.wrong[place] && (
                        <span className="block text-sm font-normal text-wrong">
                          {beside.wrong[place]}
                        </span>
                      )}
                      {opened.may_edit && (
                        <span className="flex flex-wrap gap-x-3 text-sm font-normal print:hidden">
                          {place === beside.base ? (
                            <span className="text-soft">the base</span>
                          ) : (
                            !beside.wrong[place] && (
                              <button
                                className="text-choice underline"
                                onClick={() => void change({ base: place })}
                              >
                                make it the base<span className="sr-only"> {each}</span>
                              </button>
                            )
                          )}
                          {place > 0 && (
                            <button
                              className="text-choice underline"
                              onClick={() => takeOff(place)}
                            >
                              take off<span className="sr-only"> {each}</span>
                            </button>
                          )}
                        </span>
                      )}
                    </th>
                  ))}
                </tr>
              </thead>
              <Rows title="Terms" rows={beside.terms} beside={beside} />
              <Rows title="Results" rows={beside.results} beside={beside} />
            </table>
          </div>
        </>
      )}
      {opened.may_edit && (
        <div className="mt-4 print:hidden">
          {asides.pins.length < MOST_PINS ? (
            <AddCase
              taken={[
                opened.id,
                ...asides.pins.flatMap((pin) => (pin.point === null ? [pin.case] : [])),
              ]}
              onAdd={(id) => void change({ pins: [...asides.pins, { case: id, point: null }] })}
            />
          ) : (
            <p className="text-soft">Six stand side by side: take one off to pin another.</p>
          )}
        </div>
      )}
    </main>
  );
}

export function SideBySidePage() {
  const { id = "" } = useParams();
  const opened = useQuery({
    queryKey: ["case", id, "beside"],
    queryFn: () =>
      ask(client.GET("/api/v1/cases/{case_id}", { params: { path: { case_id: id } } })),
    staleTime: Infinity,
    gcTime: 0,
  });
  if (opened.error)
    return <CannotOpen what="case" why={opened.error.message} to="/" list="To your cases" />;
  if (!opened.data) return <main className="p-8 text-soft">Opening …</main>;
  return <Opened key={id} opened={opened.data} />;
}
