import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { saveAsides, useSideBySide } from "../../api/beside";
import { caseKey, useCase } from "../../api/cases";
import type { Asides, CaseOpened } from "../../api/types";
import { whenSaved } from "../../hooks/on-the-way";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { CannotOpen } from "../../ui/cannot-open";
import { Menu } from "../../ui/menu";
import { Page, PageTitle } from "../../ui/page";
import { Taking, useTaking } from "../../ui/taking";
import { Wrong } from "../../ui/wrong";
import { AddCase } from "./add-case";
import { Compared } from "./compared";
import { Overlay } from "./overlay";

/** What is pinned beside a case, and the ways to change it: kept before it is shown. */
function usePins(opened: CaseOpened) {
  const queries = useQueryClient();
  const [asides, setAsides] = useState(opened.asides);
  const [failed, setFailed] = useState<string>();
  const change = async (changed: Partial<Asides>) => {
    const next = { ...asides, ...changed };
    try {
      await saveAsides(opened.id, next);
      setAsides(next);
      setFailed(undefined);
      queries.removeQueries({ queryKey: caseKey(opened.id) });
    } catch (error) {
      setFailed(error instanceof Error ? error.message : "It could not be kept.");
    }
  };
  const takeOff = (place: number) => {
    const pins = asides.pins.filter((_, number) => number !== place - 1);
    const { base } = asides;
    void change({ pins, base: base === place ? 0 : base > place ? base - 1 : base });
  };
  const pin = (id: string) => void change({ pins: [...asides.pins, { case: id, point: null }] });
  return { asides, failed, change, takeOff, pin };
}

function Opened({ opened }: { opened: CaseOpened }) {
  const { marks, words } = useDesk();
  const { asides, failed, change, takeOff, pin } = usePins(opened);
  const table = useSideBySide(opened.id, marks.name, asides);
  const beside = table.data;
  const taking = useTaking();
  const file = (what: string, kind: string) => () =>
    taking.take(what, `/api/v1/cases/${opened.id}/side-by-side/file?kind=${kind}`);
  const name = opened.called;
  const most = words.limits.pins;
  return (
    <Page title={`${name}, side by side`}>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <PageTitle>Side by side</PageTitle>
        <span className="flex items-baseline gap-4 text-sm text-soft print:hidden">
          <Link className="text-choice underline" to={`/cases/${opened.id}?show=trail`}>
            Pin from the trail
          </Link>
          <Button look="quiet" onClick={() => print()}>
            Print
          </Button>
          <Menu
            name="Export"
            actions={[
              { label: "Pages to print (PDF)", run: file("the pages", "pdf") },
              { label: "Workbook (XLSX)", run: file("the workbook", "xlsx") },
              { label: "Table (CSV)", run: file("the table", "csv") },
            ]}
          >
            Export <span aria-hidden>▾</span>
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
      <Wrong className="mt-3">{table.error?.message ?? failed}</Wrong>
      {beside && (
        <>
          {beside.names.length === 1 && (
            <p className="mt-4 max-w-prose font-serif text-xl">
              Nothing is pinned beside this case yet. Pin another case, or an answer from its trail.
            </p>
          )}
          <Overlay beside={beside} />
          <Compared
            beside={beside}
            busy={table.isFetching}
            mayEdit={opened.may_edit}
            onBase={(place) => void change({ base: place })}
            onTakeOff={takeOff}
          />
        </>
      )}
      {opened.may_edit && (
        <div className="mt-4 print:hidden">
          {asides.pins.length < most ? (
            <AddCase
              taken={[
                opened.id,
                ...asides.pins.flatMap((each) => (each.point === null ? [each.case] : [])),
              ]}
              onAdd={pin}
            />
          ) : (
            <p className="text-soft">{most + 1} stand side by side: take one off to pin another.</p>
          )}
        </div>
      )}
    </Page>
  );
}

export function SideBySidePage() {
  const { id = "" } = useParams();
  const opened = useCase(id, () => whenSaved(id), "side-by-side");
  if (opened.error)
    return <CannotOpen what="case" why={opened.error.message} to="/" list="To your cases" />;
  if (!opened.data) return <main className="p-8 text-soft">Opening …</main>;
  return <Opened key={id} opened={opened.data} />;
}
