import { useState } from "react";
import { balanceAt } from "../../api/asking";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Choice } from "../../ui/choice";
import { Field } from "../../ui/field";
import { Opening } from "../../ui/opening";
import type { useColumns } from "./schedule-lines";
import type { Years } from "./use-years";
import { t } from "../../texts";

/** Goes to a payment by its number, or to the last one before a day. */
export function Jump({
  statement,
  onJump,
}: {
  statement: Statement;
  onJump: (number: number) => void;
}) {
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState("");
  const go = async () => {
    setWrong("");
    if (!typed.trim()) return;
    try {
      const [found] = await balanceAt(statement, typed, "nearest");
      if (found) onJump(Math.max(1, found.number));
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <span className="flex items-baseline gap-2">
      {wrong && (
        <span role="alert" className="text-wrong">
          {wrong}
        </span>
      )}
      <Field
        id="schedule-jump"
        name={t("Go to a payment or a day")}
        placeholder={statement.start ? t("Go to 31 or a day") : t("Go to a payment")}
        value={typed}
        maxLength={40}
        leaves
        className="w-36"
        onType={setTyped}
        onEnter={() => void go()}
      />
    </span>
  );
}

/** Which columns of the schedule are shown. */
export function ColumnsMenu({ columns }: { columns: ReturnType<typeof useColumns> }) {
  const { words } = useDesk();
  return (
    <Opening
      look="dotted"
      list={(lists, opened) => (
        <lists.CheckList
          {...opened}
          options={columns.all.map((column) => ({
            value: column,
            label: words.columns[column],
            on: columns.shown.includes(column),
          }))}
          onToggle={columns.toggle}
        />
      )}
    >
      {t("Columns")}
    </Opening>
  );
}

/** By which years the schedule is folded: of the loan, or of the calendar from a month on. */
export function GroupedBy({ years }: { years: Years }) {
  const { months } = useDesk().words;
  const [starts, choose] = years;
  const label = (month: number) =>
    month === 1
      ? t("by calendar year")
      : t("by years from {months}", { months: months[month - 1] ?? "" });
  return (
    <Choice
      name={t("Grouped by")}
      value={String(starts ?? "")}
      shown={starts === null ? t("by year of the loan") : label(starts)}
      options={[
        { value: "", label: t("by year of the loan") },
        ...months.map((_, place) => ({
          value: String(place + 1),
          label: label(place + 1),
          ...(place === 1 ? { under: t("Financial years") } : {}),
        })),
      ]}
      onChoose={(value) => choose(value ? Number(value) : null)}
    />
  );
}
