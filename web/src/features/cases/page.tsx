import { useCallback, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { lookOf, useCases, useDeleteCase, useUndeleteCase, type Sort } from "../../api/cases";
import type { CaseListed } from "../../api/types";
import { focusOn } from "../../hooks/focus";
import { useDesk } from "../../hooks/use-desk";
import { useKeys } from "../../hooks/use-keys";
import { useStartCase } from "../../hooks/use-opened";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { Field } from "../../ui/field";
import { InTheBin } from "../../ui/listing";
import { later } from "../../ui/later";
import { Menu } from "../../ui/menu";
import { counted } from "../../ui/numbers";
import { Page, PageTitle } from "../../ui/page";
import { SAY_LINE, SayLine } from "../../ui/say-line";
import { Wrong } from "../../ui/wrong";
import { CaseList } from "./list";
import { OpenDocument } from "./open-document";

const FlowsSheet = later(async () => (await import("./flows")).FlowsSheet);

const SORTS: Record<Sort, string> = {
  changed: "last changed first",
  name: "by name",
  created: "newest first",
};

/** What is looked for, and how it is sorted; the address says both. */
function useLook() {
  const [search, setSearch] = useSearchParams();
  const look = (change: Record<string, string>) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [name, value] of Object.entries(change)) {
          if (value) next.set(name, value);
          else next.delete(name);
        }
        return next;
      },
      { replace: true },
    );
  return { ...lookOf(search), look };
}

/** Every case of the analyst, and the ways to start one; `onNear` is told that one is likely to be
 *  opened. */
export function CasesPage({ onNear }: { onNear: () => void }) {
  const { marks } = useDesk();
  const { q, sort, look } = useLook();
  const { list, cases, total } = useCases(q, sort);
  const start = useStartCase();
  const [last, setLast] = useState<CaseListed | null>(null);
  const away = useDeleteCase(setLast);
  const undo = useUndeleteCase(() => setLast(null));
  // Once opened it keeps what was typed in it.
  const [flows, setFlows] = useState<boolean>();
  const find = useRef<HTMLInputElement>(null);
  const keys = useMemo(
    () => [
      { key: "f", run: () => find.current?.focus() },
      { key: "i", run: () => focusOn(SAY_LINE) },
    ],
    [],
  );
  useKeys(keys);
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = list;
  const more = useCallback(() => void fetchNextPage(), [fetchNextPage]);

  return (
    <Page title="Cases">
      <div className="flex flex-wrap items-center gap-3">
        <PageTitle>Cases</PageTitle>
        <OpenDocument />
        <Button onClick={() => setFlows(true)}>Flows</Button>
        {flows !== undefined && <FlowsSheet open={flows} onOpen={setFlows} />}
        <Button look="main" onClick={() => start.mutate(undefined)}>
          New case
        </Button>
      </div>
      <SayLine
        currency="EUR"
        className="mt-4 max-w-3xl"
        onSaid={(statement) => start.mutate(statement)}
      />
      <div className="mt-4 flex flex-wrap items-center gap-x-5 gap-y-2 text-sm text-soft">
        <Field
          ref={find}
          type="search"
          name="Find a case"
          placeholder="Find by name, amount, note or #tag"
          value={q}
          leaves
          className="w-full max-w-md text-base text-ink"
          onType={(typed) => look({ q: typed })}
        />
        <Choice
          name="Sorted"
          value={sort}
          shown={SORTS[sort]}
          options={Object.entries(SORTS).map(([value, label]) => ({ value, label }))}
          onChoose={(chosen) => look({ sort: chosen === "changed" ? "" : chosen })}
        />
        <span role="status">
          {list.data && `${counted(total, "case", marks)}${q ? " found" : ""}`}
        </span>
        <span className="ml-auto flex gap-4">
          <Menu
            name="Export all"
            actions={[
              { label: "All as one JSON file", href: "/api/v1/cases/file?kind=json" },
              { label: "All as a zip, a file each", href: "/api/v1/cases/file?kind=zip" },
            ]}
          >
            Export all
          </Menu>
          <Link className="hover:text-ink" to="/bin">
            Bin
          </Link>
        </span>
      </div>
      {last && <InTheBin name={last.called} onUndo={() => undo.mutate(last.id)} />}
      <Wrong error={start.error ?? away.error ?? undo.error ?? list.error} />
      {list.data && cases.length === 0 && <Nothing q={q} onAll={() => look({ q: "" })} />}
      <CaseList
        onNear={onNear}
        cases={cases}
        hasMore={hasNextPage && !isFetchingNextPage}
        onMore={more}
        onTag={(tag) => look({ q: `#${tag}` })}
        onDelete={(gone) => away.mutate(gone)}
      />
    </Page>
  );
}

/** Why there is nothing in the list, and what to do. */
function Nothing({ q, onAll }: { q: string; onAll: () => void }) {
  return (
    <div className="mt-10 max-w-prose">
      {q ? (
        <>
          <p className="font-serif text-xl">No case holds “{q}”.</p>
          <p className="mt-2 text-soft">
            Every word is looked for in names, notes, tags and figures.{" "}
            <Button look="link" onClick={onAll}>
              Show all
            </Button>
          </p>
        </>
      ) : (
        <>
          <p className="font-serif text-xl">No cases yet.</p>
          <p className="mt-2 text-soft">
            A case is one loan: what is known of it, a ? for what is not, and everything that
            follows. Start one with “New case”, or press n.
          </p>
        </>
      )}
    </div>
  );
}
