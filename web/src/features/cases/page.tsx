import { useCallback, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { casesFile, lookOf, useCases } from "../../api/cases";
import { useDeed } from "../../api/several";
import type { Sort } from "../../api/types";
import { focusOn } from "../../hooks/focus";
import { useDesk } from "../../hooks/use-desk";
import { useKeys } from "../../hooks/use-keys";
import { useRem } from "../../hooks/use-rem";
import { useWidth } from "../../hooks/use-width";
import { useStartCase } from "../../hooks/use-opened";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { later } from "../../ui/later";
import { Menu } from "../../ui/menu";
import { countedCases } from "../../ui/numbers";
import { Page, PageTitle } from "../../ui/page";
import { SAY_LINE, SayLine } from "../../ui/say-line";
import { Wrong } from "../../ui/wrong";
import { CaseList } from "./list";
import { ChooseColumns } from "./choose-columns";
import { hasColumns } from "./columns";
import { OpenDocument } from "./open-document";
import { ToJudge } from "./to-judge";
import { usePicked } from "./use-picked";
import { t } from "../../texts";

const SortedBy = later(async () => (await import("./sorted-by")).SortedBy);
const Nothing = later(async () => (await import("./nothing")).Nothing);
const PickedBar = later(async () => (await import("./picked-bar")).PickedBar);
const FlowsSheet = later(async () => (await import("./flows")).FlowsSheet);

/** What stands beside a page, in pixels, and how wide that is at most, before it is measured. */
const BESIDE = 64;
const WIDEST = 1280;

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
  return { asked: lookOf(search), look };
}

/** Every case of the analyst, and the ways to start one; `onNear` is told that one is likely to be
 *  opened. */
export function CasesPage({ onNear }: { onNear: () => void }) {
  const { me, marks, words } = useDesk();
  const { asked, look } = useLook();
  const { q, sort, toJudge } = asked;
  const { list, cases, total, waiting, lastFirst } = useCases(asked);
  const picking = usePicked(cases, words.limits.picked);
  const rem = useRem();
  const [room, measured] = useWidth<HTMLDivElement>();
  const width = (measured || Math.min(innerWidth, WIDEST) - BESIDE) / rem;
  const start = useStartCase();
  const deed = useDeed();
  // Once opened it keeps what was typed in it.
  const [flows, setFlows] = useState<boolean>();
  const find = useRef<HTMLInputElement>(null);
  const keys = useMemo(
    () => [
      { key: "f", run: () => find.current?.focus() },
      { key: "i", run: () => focusOn(SAY_LINE) },
      { key: "p", run: () => setFlows(true) },
    ],
    [],
  );
  useKeys(keys);
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = list;
  const more = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  const sorted = {
    sort,
    lastFirst,
    onSort: (by: Sort, order: string) => look({ sort: by === "changed" ? "" : by, order }),
  };

  return (
    <Page title={t("Cases")}>
      <div className="flex flex-wrap items-center gap-3">
        <PageTitle>{t("Cases")}</PageTitle>
        <OpenDocument />
        <Button onClick={() => setFlows(true)}>{t("Flows")}</Button>
        {flows !== undefined && <FlowsSheet open={flows} onOpen={setFlows} />}
        <Button look="main" onClick={() => start.mutate(undefined)}>
          {t("New case")}
        </Button>
      </div>
      <SayLine
        currency={me.begins.currency}
        className="mt-4 max-w-4xl"
        onSaid={(statement) => start.mutate(statement)}
      />
      <div className="mt-4 flex flex-wrap items-center gap-x-5 gap-y-2 text-sm text-soft">
        <Field
          ref={find}
          type="search"
          name={t("Find a case")}
          placeholder={t("Find by name, amount, note or #tag")}
          value={q}
          leaves
          className="w-full max-w-md text-base text-ink"
          onType={(typed) => look({ q: typed })}
        />
        {!hasColumns(width) && <SortedBy {...sorted} />}
        <span role="status">
          {list.data &&
            (q
              ? t("{cases} found", { cases: countedCases(total, marks) })
              : countedCases(total, marks))}
        </span>
        {(waiting > 0 || toJudge) && <ToJudge waiting={waiting} toJudge={toJudge} onLook={look} />}
        <span className="ml-auto flex items-baseline gap-4">
          {hasColumns(width) && <ChooseColumns />}
          <Menu
            name={t("Export all")}
            actions={[
              { label: t("All as one JSON file"), href: casesFile("json") },
              { label: t("All as a zip, a file each"), href: casesFile("zip") },
              { label: t("The list as a table (CSV)"), href: casesFile("csv") },
            ]}
          >
            {t("Export all")}
          </Menu>
          <Link className="hover:text-ink" to="/bin">
            {t("Bin")}
          </Link>
        </span>
      </div>
      <Wrong error={start.error ?? list.error} />
      {list.data && cases.length === 0 && (
        <Nothing
          q={q}
          toJudge={toJudge}
          onAll={() => look({ q: "", "to-judge": "" })}
          onSaid={(statement) => start.mutate(statement)}
        />
      )}
      <div ref={room} />
      <CaseList
        {...sorted}
        onNear={() => {
          onNear();
          PickedBar.load();
        }}
        cases={cases}
        total={total}
        width={width}
        rem={rem}
        picking={picking}
        hasMore={hasNextPage && !isFetchingNextPage}
        onMore={more}
        onTag={(tag) => look({ q: `#${tag}` })}
        onDelete={({ id, called }) => {
          picking.drop(id);
          deed.mutate({ kind: "delete", cases: [id], called });
        }}
      />
      {(picking.touched || deed.data || deed.error) && (
        <PickedBar {...picking} deed={deed} cases={cases} />
      )}
    </Page>
  );
}
