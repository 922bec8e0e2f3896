import { useMemo, useState } from "react";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useInSight } from "../../hooks/use-in-sight";
import { useRem } from "../../hooks/use-rem";
import { useTop } from "../../hooks/use-top";
import { useWidth } from "../../hooks/use-width";
import { Button } from "../../ui/button";
import { isOfDays } from "./columns";
import { asText, keyOf, linesOf, useColumns } from "./schedule-lines";
import { ScheduleRow } from "./schedule-row";
import { ColumnsMenu, GroupedBy, Jump } from "./schedule-tools";
import type { LaidOut } from "./use-worked";
import type { Years } from "./use-years";
import { t } from "../../texts";

/** How high a line is, in rem. */
const ROW_HEIGHT = 1.875;
const GRID = "grid items-center px-4";
/** Rem that a column needs, by what stands in it, and those beside them. */
const NEEDS = { number: 9.5, date: 8, money: 6.5, sides: 2 };

interface Props {
  good: LaidOut;
  statement: Statement;
  marked: readonly [number, number] | null;
  years: Years;
}

/** The lines that can be seen, and the ways to fold years and unfold them. */
function useFolded({ answer, told }: LaidOut) {
  const { by_year: years } = answer;
  const [open, setOpen] = useState<ReadonlySet<number>>(new Set([0]));
  const lines = useMemo(
    () => linesOf(years, told.left, told.whole, (year) => open.has(year)),
    [years, told.left, told.whole, open],
  );
  const all = years.every((_, year) => open.has(year));
  const toggle = (year: number) =>
    setOpen((now) => {
      const next = new Set(now);
      if (!next.delete(year)) next.add(year);
      return next;
    });
  const toggleAll = () => setOpen(new Set(all ? [] : years.keys()));
  const unfold = (year: number) => setOpen((now) => new Set(now).add(year));
  return { lines, all, isOpen: (year: number) => open.has(year), toggle, toggleAll, unfold };
}

/** Every payment to the cent, folded by year; only what is in sight is drawn. */
export function Schedule({ good, statement, marked, years }: Props) {
  const { marks, words } = useDesk();
  const { answer, told, schedule } = good;
  const dated = told.columns.includes("date");
  const columns = useColumns(told.columns);
  const { lines, all, isOpen, toggle, toggleAll, unfold } = useFolded(good);
  const [gone, setGone] = useState<number | null>(null);
  const [copied, setCopied] = useState(false);
  const rem = useRem();
  const high = ROW_HEIGHT * rem;
  const [body, offset] = useTop<HTMLDivElement>();
  const { inSight, whole, scrollTo } = useInSight(lines.length, high, offset);

  const jump = (number: number) => {
    const year = answer.by_year.findIndex((each) => each.first <= number && number <= each.last);
    unfold(year);
    setGone(number);
    // Once the year is unfolded its rows have their places.
    const index = linesOf(
      answer.by_year,
      told.left,
      told.whole,
      (each) => each === year || isOpen(each),
    ).findIndex((line) => "place" in line && schedule.number[line.place] === number);
    setTimeout(() => {
      if (index >= 0) scrollTo(index);
    }, 30);
  };
  const copy = async () => {
    await navigator.clipboard.writeText(asText(schedule, columns.shown, words, marks));
    setCopied(true);
    setTimeout(() => setCopied(false), 2_000);
  };
  const [box, room] = useWidth<HTMLElement>();
  const needs = columns.shown.map((column) => (isOfDays(column) ? NEEDS.date : NEEDS.money));
  const wide = needs.reduce((sum, each) => sum + each, NEEDS.number + NEEDS.sides);
  // Where it is wider than its place it scrolls by itself; else its heads stay in sight.
  const scrolls = room > 0 && wide * rem > room;
  const grid = {
    minWidth: `${wide}rem`,
    gridTemplateColumns: `${NEEDS.number}rem ${needs.map((each) => `minmax(${each}rem,1fr)`).join(" ")}`,
  };

  return (
    <section ref={box} id="schedule" aria-label={t("Schedule")} className="mt-3">
      <div className="flex flex-wrap items-baseline justify-end gap-x-5 gap-y-1 pb-1 text-sm">
        <h2 className="mr-auto font-semibold">{t("The schedule")}</h2>
        <Jump statement={statement} onJump={jump} />
        {dated && <GroupedBy years={years} />}
        <ColumnsMenu columns={columns} />
        <Button look="link" onClick={() => void copy()}>
          {copied ? t("Copied") : t("Copy")}
        </Button>
        <Button look="link" onClick={toggleAll}>
          {all ? t("Fold all years") : t("Unfold all years")}
        </Button>
      </div>
      <div
        role="table"
        aria-label={t("Schedule of payments")}
        aria-rowcount={lines.length + 1}
        className={`rounded-lg border border-rule bg-sheet ${scrolls ? "overflow-x-auto" : ""}`}
      >
        <div role="rowgroup" className={scrolls ? "" : "sticky top-0 z-10"}>
          <div
            role="row"
            className={`${GRID} rounded-t-lg border-b border-ink bg-sheet py-1.5`}
            style={grid}
          >
            {["number", ...columns.shown].map((id, place) => (
              <div
                role="columnheader"
                key={id}
                className={`text-sm text-soft ${place ? "text-right" : ""}`}
              >
                {words.columns[id]}
              </div>
            ))}
          </div>
        </div>
        <div
          role="rowgroup"
          ref={body}
          className="relative"
          style={{ height: whole, minWidth: `${wide}rem` }}
        >
          {inSight.map((item) => {
            const line = lines[item.index];
            return (
              line && (
                <ScheduleRow
                  key={keyOf(line)}
                  line={line}
                  onToggle={toggle}
                  index={item.index}
                  columns={columns.shown}
                  calendar={dated && years[0] !== null}
                  marked={marked}
                  gone={gone}
                  schedule={schedule}
                  className={`${GRID} absolute inset-x-0 border-b border-rule`}
                  style={{ ...grid, height: high, top: item.start }}
                />
              )
            );
          })}
        </div>
      </div>
    </section>
  );
}
