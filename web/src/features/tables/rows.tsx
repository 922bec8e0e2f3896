import { useRef } from "react";
import { useFirstRows, useLaterRows, type Looking } from "../../api/tables";
import type { TableOpened } from "../../api/types";
import { Button } from "../../ui/button";
import { useInSightOf } from "../../hooks/use-in-sight";
import { useRem } from "../../hooks/use-rem";
import { Wrong } from "../../ui/wrong";
import { cellsOf, widthOf } from "./shown-columns";
import { t } from "../../texts";

/** How high a row is and how wide its way to a case, in rem. */
const ROW_HEIGHT = 2;
const CASE_WIDE = 4.4;

export interface Sort {
  by: string;
  descending: boolean;
}

interface Props {
  table: TableOpened;
  looking: Looking;
  shown: readonly string[];
  /** Missing where rows stand as they come. */
  onSort?: (sort: Sort) => void;
  onOpen: (row: number) => void;
}

interface Told {
  raw: Record<string, string | number | null>;
  told: Record<string, string>;
}

/** The rows that are in sight, fetched as they come. */
function useRows(table: TableOpened, looking: Looking, inSight: readonly number[]) {
  const { size } = looking;
  const first = useFirstRows(table, looking);
  const starts = [
    ...new Set(inSight.map((index) => Math.floor(index / size) * size).filter(Boolean)),
  ];
  const blocks = useLaterRows(table, looking, starts);
  const rowAt = (index: number): Told | undefined => {
    const start = Math.floor(index / size) * size;
    const block = start === 0 ? first.data : blocks[starts.indexOf(start)]?.data;
    const [raw, told] = [block?.items[index - start], block?.told[index - start]];
    return raw && told && { raw, told };
  };
  return { first, rowAt };
}

/** The rows of a result, as many as there are; only what is in sight is drawn. */
export function Rows({ table, looking, shown, onSort, onOpen }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const total = useFirstRows(table, looking).data?.total ?? 0;
  const rem = useRem();
  const { inSight, whole } = useInSightOf(box, total, ROW_HEIGHT * rem);
  const { first, rowAt } = useRows(
    table,
    looking,
    inSight.map((item) => item.index),
  );
  const width = shown.reduce((sum, name) => sum + widthOf(name), CASE_WIDE);
  const isWords = (name: string) => table.titles.find((each) => each.name === name)?.is_words;
  const side = (name: string) => (isWords(name) ? "" : "text-right");
  return (
    <>
      <Wrong error={first.error} />
      <div
        ref={box}
        role="table"
        aria-label={t("Rows")}
        aria-rowcount={total}
        aria-busy={first.isFetching}
        tabIndex={0}
        className="mt-2 overflow-auto rounded-lg border border-rule bg-sheet"
        style={{ height: `min(30rem, ${(total + 2) * ROW_HEIGHT}rem)` }}
      >
        <div role="rowgroup" className="sticky top-0 z-10 bg-sheet">
          <div
            role="row"
            className="flex border-b border-rule-strong text-sm"
            style={{ width: `${width}rem` }}
          >
            {shown.map((name) => (
              <Head
                key={name}
                table={table}
                name={name}
                looking={looking}
                side={side(name)}
                {...(onSort && { onSort })}
              />
            ))}
            <div role="columnheader" style={{ width: `${CASE_WIDE}rem` }}>
              <span className="sr-only">{t("As a case")}</span>
            </div>
          </div>
        </div>
        <div role="rowgroup" className="relative" style={{ height: whole, width: `${width}rem` }}>
          {inSight.map((item) => {
            const row = rowAt(item.index);
            return (
              <div
                key={item.index}
                role="row"
                aria-rowindex={item.index + 1}
                className="absolute flex items-center border-b border-rule"
                style={{ top: item.start, height: `${ROW_HEIGHT}rem` }}
              >
                {row ? (
                  <Cells row={row} shown={shown} side={side} onOpen={onOpen} />
                ) : (
                  <div role="cell" className="px-2 text-soft">
                    …
                  </div>
                )}
              </div>
            );
          })}
        </div>
      </div>
      {first.data && total === 0 && <p className="mt-2 text-soft">{t("No row is like that.")}</p>}
    </>
  );
}

function Head({
  table,
  name,
  looking,
  side,
  onSort,
}: Pick<Props, "table" | "looking" | "onSort"> & { name: string; side: string }) {
  const isSorted = looking.sort === name;
  const order = looking.descending ? "descending" : "ascending";
  const title = table.titles.find((each) => each.name === name)?.title;
  const style = { width: `${widthOf(name)}rem` };
  if (!onSort)
    return (
      <div role="columnheader" style={style} className={`px-2 py-1.5 text-soft ${side}`}>
        {title}
      </div>
    );
  return (
    <div
      role="columnheader"
      aria-sort={isSorted ? order : "none"}
      style={style}
      className={`px-2 ${side}`}
    >
      <Button
        look="bare"
        className="py-1.5 text-soft hover:text-ink"
        onClick={() => onSort({ by: name, descending: isSorted && !looking.descending })}
      >
        {title}
        <span aria-hidden>{isSorted ? (looking.descending ? " ↓" : " ↑") : ""}</span>
      </Button>
    </div>
  );
}

function Cells({
  row: { raw, told },
  shown,
  side,
  onOpen,
}: Pick<Props, "shown" | "onOpen"> & { row: Told; side: (name: string) => string }) {
  const look = (name: string) => {
    const isWrong = name === "problem" || (["fits", "found"].includes(name) && raw.fits === "no");
    return `${side(name)} ${name === "found" ? "font-semibold" : ""} ${isWrong ? "text-wrong" : ""} ${name === raw.unknown ? "bg-unknown/20" : ""}`;
  };
  return (
    <>
      {cellsOf(told, shown).map(({ name, wide }, place) => (
        <div
          key={place}
          role="cell"
          title={name === "problem" ? told[name] : undefined}
          style={{ width: `${wide}rem` }}
          className={`truncate px-2 ${look(name)}`}
        >
          {told[name]}
        </div>
      ))}
      <div role="cell" style={{ width: `${CASE_WIDE}rem` }}>
        <Button look="link" className="text-sm" onClick={() => onOpen(Number(raw.row))}>
          {t("open")}
          <span className="sr-only"> {t("row {row} as a case", { row: raw.row ?? "" })}</span>
        </Button>
      </div>
    </>
  );
}
