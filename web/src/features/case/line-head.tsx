import type { Answer, MarksWord, ScheduleColumns } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useDays } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { Key } from "../../ui/chart";
import { Word } from "../../ui/word";
import { textAt } from "./columns";
import { rich, t } from "../../texts";

type Years = Answer["by_year"];

interface Props {
  /** The id of the heading. */
  title: string;
  years: Years;
  /** How many payments a bar stands for. */
  together: number;
  schedule: ScheduleColumns;
  /** Where the cursor stands. */
  row: number | undefined;
  /** Whether its rate floats. */
  floats: boolean;
}

/** Cover and loan to value, each where its year begins. */
export function ratiosOf(years: Years, x: (period: number) => number, marks: MarksWord) {
  return years.map((year) => ({
    x: x(year.first - 1),
    text: [
      year.cover_ratio && `${inMarks(year.cover_ratio, marks)}×`,
      year.loan_to_value && `${inMarks(year.loan_to_value, marks)} %`,
    ]
      .filter(Boolean)
      .join(" · "),
  }));
}

/** The rates of a loan that floats, where each begins to hold. */
export function ratesOf(
  used: Answer["rates_used"],
  x: (period: number) => number,
  marks: MarksWord,
) {
  return (used ?? [])
    .filter(([, percent], place) => percent !== used?.[place - 1]?.[1])
    .map(([period, percent]) => ({ x: x(period - 1), text: `${inMarks(percent, marks)} %` }));
}

/** What the colours of the picture stand for, and what is paid where the cursor stands. */
export function LineHead({ title, years, together, schedule, row, floats }: Props) {
  const ratios = [
    floats && t("the rate from there on"),
    years[0]?.cover_ratio !== undefined && t("cover of each year"),
    years[0]?.loan_to_value !== undefined && t("loan to value at its end"),
  ].filter(Boolean);
  return (
    <div className="flex flex-wrap items-center gap-x-5 px-4 pt-2 text-sm text-soft">
      <h2 id={title} className="font-semibold text-ink">
        <Word of="line">{t("The line")}</Word>
      </h2>
      <Key look="h-0.5 w-3 bg-owed">{t("owed")}</Key>
      <Key look="size-2.5 rounded-sm bg-principal">{t("principal paid")}</Key>
      <Key look="size-2.5 rounded-sm bg-interest">{t("interest paid")}</Key>
      {ratios.length > 0 && <span>{t("below: {what}", { what: ratios.join(" · ") })}</span>}
      {together > 1 && (
        <span>{t("each bar the mean of {together} payments", { together: together })}</span>
      )}
      <Paid schedule={schedule} row={row} />
    </div>
  );
}

/** What is paid where the cursor stands. */
function Paid({ schedule, row }: { schedule: ScheduleColumns; row: number | undefined }) {
  const { marks } = useDesk();
  const { day } = useDays();
  const money = (name: string, place: number) => (
    <b>{inMarks(textAt(schedule, name, place), marks)}</b>
  );
  return (
    <span className="ml-auto min-h-5 text-ink" aria-hidden>
      {row !== undefined ? (
        rich("payment {number}{date}: {payment} = principal {principal} + interest {interest}", {
          number: schedule.number[row],
          date: schedule.date && `, ${day(textAt(schedule, "date", row))}`,
          payment: money("payment", row),
          principal: money("principal", row),
          interest: money("interest", row),
        })
      ) : (
        <span className="text-soft">{t("drag, or Shift and the arrows, for a stretch")}</span>
      )}
    </span>
  );
}
