import { useMemo } from "react";
import { variant } from "../../api/sensitivity";
import { useSweepInParts } from "../../api/sensitivity";
import type { Asides, Content, Figure } from "../../api/types";
import { useSettled } from "../../hooks/use-settled";
import { useStopping } from "../../hooks/use-stopping";
import { Sheet } from "../../ui/sheet";
import { StillWorking } from "../../ui/still-working";
import { ToldTable } from "../../ui/table";
import { Wrong } from "../../ui/wrong";
import { ResultChoice } from "./result-choice";
import { SweepGrid } from "./sweep-grid";
import { SweepList } from "./sweep-list";
import { Vary } from "./vary";
import { useOpenAs } from "./use-started";
import { t } from "../../texts";

type MovesAside = NonNullable<Asides["moves"]>;
type Varied = MovesAside["varied"];

interface Props {
  content: Content;
  /** The figures of the statement, as the server tells them. */
  figures: readonly Figure[];
  moves: MovesAside | null;
  onMoves: (moves: MovesAside) => void;
  open: boolean;
  onOpen: (open: boolean) => void;
}

const FIRST: MovesAside = {
  varied: [{ path: "rate.percent", typed: "" }],
  results: ["answer", "total_interest"],
};

/** What is varied of the loan as it stands: a figure that is gone gives way to the first there is. */
function variedOf(moves: MovesAside, figures: readonly Figure[]): Varied {
  const isThere = (path: string) => figures.some((figure) => figure.path === path);
  const [one, two] = moves.varied;
  const first = one && isThere(one.path) ? one : { path: figures[0]?.path ?? "", typed: "" };
  const second = two && isThere(two.path) && two.path !== first.path ? [two] : [];
  return [first, ...second];
}

/** What moves the loan: results against one figure, or one result against two. */
export function WhatMoves({ content, figures, moves, onMoves, open, onOpen }: Props) {
  const { statement } = content;
  const movable = figures.filter((figure) => !figure.is_asked);
  const { results } = moves ?? FIRST;
  const varied = variedOf(moves ?? FIRST, movable);
  const [first, second] = varied;
  const change = (changed: Partial<MovesAside>) => onMoves({ varied, results, ...changed });
  const vary = (place: 0 | 1, path: string, typed: string) => {
    const next = varied.slice(0, path ? 2 : place);
    if (path) next[place] = { path, typed };
    change({ varied: next });
  };
  const asked = useSettled(
    JSON.stringify({ statement, varied, results: second ? results.slice(0, 1) : results }),
    120,
  );
  const asking = useMemo(
    () => JSON.parse(asked) as MovesAside & { statement: typeof statement },
    [asked],
  );
  const stopping = useStopping(["sensitivity"], asking, true);
  const found = useSweepInParts(asking, open && asking.varied[0]?.path !== "" && !stopping.stopped);
  const take = useOpenAs(content);
  const { data } = found;
  const all = data ? data.swept.values.reduce((product, values) => product * values.length, 1) : 1;
  const worked = data ? (data.swept.next ?? all) : 0;
  const busy = found.isFetching || found.hasNextPage;
  const onTake = (values: Record<string, string>, said: string) =>
    take.mutate({ statement: variant(statement, values), suffix: said });
  const options = movable.map(({ path, title }) => ({ value: path, label: title }));
  const used = (place: 0 | 1) =>
    data?.varied[place]?.path === varied[place]?.path ? data?.varied[place]?.typed : undefined;
  return (
    <Sheet
      title={t("What moves it")}
      about={t("The loan worked anew for every value of one figure, or of two.")}
      open={open}
      onOpen={onOpen}
      asks
      wide
    >
      <div className="mt-4 grid gap-2">
        <Vary
          label={t("Figure varied")}
          varied={first}
          used={used(0)}
          options={options}
          onVary={(path, typed) => vary(0, path, typed)}
        />
        <Vary
          label={t("Second figure varied")}
          varied={second}
          used={used(1)}
          options={[
            { value: "", label: t("and no other figure") },
            ...options.filter(({ value }) => value !== first?.path),
          ]}
          onVary={(path, typed) => vary(1, path, typed)}
        />
        <ResultChoice
          isDated={statement.start.trim() !== ""}
          results={results}
          single={second !== undefined}
          onChoose={(chosen) => change({ results: chosen })}
        />
      </div>
      <StillWorking
        busy={busy}
        share={worked < all ? worked / all : undefined}
        stopping={stopping}
      />
      {found.error ? (
        <Wrong error={found.error} className="mt-3" />
      ) : (
        data && (
          <div aria-busy={busy} className="mt-4">
            {second && data.swept.values.length > 1 ? (
              <SweepGrid data={data} worked={worked} onTake={onTake} />
            ) : (
              <SweepList data={data} worked={worked} onTake={onTake} />
            )}
            {data.told.small_changes.rows.length > 0 && (
              <section className="mt-5 max-w-lg">
                <h3 className="text-sm text-soft">
                  {t("A little more, and what it does to the figure asked for")}
                </h3>
                <ToldTable label={t("A little more")} told={data.told.small_changes} strong={1} />
              </section>
            )}
          </div>
        )
      )}
      <Wrong error={take.error} className="mt-3" />
    </Sheet>
  );
}
