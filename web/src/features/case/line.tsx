import { useId } from "react";
import { useBalanceAt } from "../../api/asking";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useSettled } from "../../hooks/use-settled";
import { useDays } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { textAt } from "./columns";
import { LineHead, ratesOf, ratiosOf } from "./line-head";
import { LinePicture } from "./line-picture";
import { Pins } from "./pins";
import { between, useCursor } from "./use-cursor";
import { useDrawn } from "./use-drawn";
import type { LaidOut } from "./use-worked";
import { OnADay } from "./on-a-day";
import { t } from "../../texts";

const PAUSE = 90;

interface Props {
  good: LaidOut;
  statement: Statement;
  /** Whether the answer is that of the statement. */
  ready: boolean;
  /** The first day of the loan, where it has dates. */
  start: string | null;
  /** The payments whose sum is asked for. */
  marked: readonly [number, number] | null;
  onStretch: (typed: string) => void;
  /** The cursor was put somewhere on purpose: a clause can be added there. */
  onPlace: (payment: number) => void;
  /** A clause was moved along the line. */
  onMove: (clause: number, payment: number) => void;
}

/** The picture of the loan: what is owed above, what is paid below, a cursor that tells. */
export function LoanLine(props: Props) {
  const { good, statement, ready, start, marked, onStretch, onPlace, onMove } = props;
  const { marks } = useDesk();
  const { day } = useDays();
  const title = useId();
  const { told, schedule } = good;
  const { box, width, drawn, advance, aYear, count } = useDrawn(schedule, statement);
  const cursor = useCursor({
    box,
    width,
    count,
    aYear,
    isDated: start !== null,
    onStretch,
    onPlace,
  });
  const { chosen, whole } = cursor;
  const row = whole ? whole - 1 : undefined;
  const text = (name: string, place: number) => textAt(schedule, name, place);
  const money = (text: string) => inMarks(text, marks);

  // Between two payments of a loan with dates the cursor stands on a day, which the server tells.
  const dateOf = (payment: number) =>
    payment === 0 && !advance ? start : text("date", advance ? payment : payment - 1) || null;
  const low = chosen === null ? 0 : Math.floor(chosen);
  const [begins, ends] = [dateOf(low), dateOf(low + 1)];
  const isBetween = chosen !== null && whole !== null && Math.abs(chosen - whole) >= 0.08;
  const onDay = isBetween && begins && ends ? between(begins, ends, chosen - low) : "";
  const owed = useBalanceAt(statement, useSettled(onDay, PAUSE), "nearest", ready);
  const there = onDay ? owed.data?.[0] : undefined;

  const owes = row === undefined ? text("opening", 0) : text("closing", row);
  const where =
    row === undefined
      ? t("at the start")
      : t("after payment {number}", { number: text("number", row) });
  const years = good.answer.by_year;
  const ratios = ratiosOf(years, drawn.x, marks);
  const spoken =
    chosen === null
      ? t("no payment chosen")
      : t("{where}: owes {owes}", { where, owes: money(owes) });
  const end = text("closing", count - 1);
  const cursorX = chosen === null ? 0 : drawn.x(chosen);

  return (
    <section aria-labelledby={title} className="mt-6 rounded-lg border border-rule bg-sheet">
      <LineHead
        title={title}
        years={years}
        floats={good.answer.rates_used !== null}
        together={drawn.together}
        schedule={schedule}
        row={there ? undefined : row}
      />
      <Pins
        statement={statement}
        placed={told.clauses}
        count={count}
        advance={advance}
        x={drawn.x}
        onMove={onMove}
        placeAt={cursor.placeAt}
      />
      <div
        ref={box}
        id="line-cursor"
        role="slider"
        tabIndex={0}
        aria-label={t("Cursor on the line")}
        aria-valuemin={0}
        aria-valuemax={count}
        aria-valuenow={whole ?? 0}
        aria-valuetext={spoken}
        className="relative cursor-crosshair touch-pan-y select-none"
        {...cursor.handlers}
      >
        <LinePicture
          drawn={drawn}
          below={[ratesOf(good.answer.rates_used, drawn.x, marks), ratios]}
          width={width}
          count={count}
          label={t("What is owed, from {opening} to {end} in {count} payments", {
            opening: money(text("opening", 0)),
            end: money(end),
            count,
          })}
          left={told.left}
          end={Number(end)}
          marked={marked}
          cursor={chosen === null ? null : { x: cursorX, level: Number(there ? there.owed : owes) }}
        />
        {chosen !== null && (
          <div
            aria-hidden
            className="pointer-events-none absolute top-8 rounded bg-ink px-2.5 py-1 text-sm text-paper"
            style={cursorX > width - 260 ? { right: width - cursorX + 8 } : { left: cursorX + 8 }}
          >
            {there ? (
              <OnADay owed={there} />
            ) : (
              <>
                {where}
                {row !== undefined && schedule.date && ` · ${day(text("date", row))}`}
                <br />
                <b>{t("owes {owes}", { owes: money(owes) })}</b>
              </>
            )}
          </div>
        )}
      </div>
    </section>
  );
}
