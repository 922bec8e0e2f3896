import type { Defaults } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { same } from "../../hooks/same";
import { Field } from "../../ui/field";
import { everyChosen, everyOptions, periodOf } from "../../ui/quoting";
import { Select } from "../../ui/select";
import { filled, t } from "../../texts";

interface Props {
  defaults: Defaults;
  /** Whether the decimal mark is still to be said. */
  asksMarks: boolean;
  /** Whether a column says when loans begin. */
  isDated: boolean;
  onChange: (changed: Partial<Defaults>) => void;
}

/** What holds for every row whose columns do not say otherwise. */
export function WhereNoColumnSaysSo({ defaults, asksMarks, isDated, onChange }: Props) {
  const { words } = useDesk();
  const { table, choices } = words;
  const { noun } = periodOf(defaults.every, words);
  const answers = (values: readonly string[]) =>
    values.map((value) => ({ value, label: table.answers[value] ?? value }));
  const choice = (
    name: "currency" | "quoted" | "timing" | "repaid" | "count_in" | "marks",
    label: string,
    options: readonly { value: string; label: string }[],
  ) => (
    <Select
      label={label}
      value={defaults[name]}
      options={options}
      onChoose={(value) => onChange({ [name]: value })}
    />
  );
  const rounded = table.roundings.findIndex(({ rounding }) =>
    same(rounding, { ...table.roundings[0]?.rounding, ...defaults.rounding }),
  );
  return (
    <>
      <h2 className="mt-5 font-serif text-xl font-semibold">{t("Where no column says so")}</h2>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        {choice(
          "currency",
          t("Currency"),
          words.currencies.map(({ code }) => ({ value: code, label: code })),
        )}
        {choice("quoted", t("Rates are quoted"), table.styles)}
        <Select
          label={t("compounded")}
          value={String(defaults.compounding ?? "")}
          options={[
            { value: "", label: t("as it is paid") },
            ...words.periods.map(({ name, often }) => ({ value: name, label: often })),
          ]}
          onChoose={(value) => onChange({ compounding: value || null })}
        />
        <Select
          label={t("Paid")}
          value={String(defaults.every)}
          options={everyOptions(defaults.every, words)}
          onChoose={(value) => onChange({ every: everyChosen(value) })}
        />
        {choice(
          "timing",
          t("at the"),
          choices.timing.map(({ value, label }) => ({ value, label: filled(label, { noun }) })),
        )}
        {choice("repaid", t("Repaid by"), choices.repaid_rows)}
        <Select
          label={t("Payments rounded")}
          value={String(Math.max(0, rounded))}
          options={table.roundings.map(({ label }, place) => ({ value: String(place), label }))}
          onChoose={(place) => {
            const found = table.roundings[Number(place)];
            if (found) onChange({ rounding: found.rounding as Defaults["rounding"] });
          }}
        />
        {choice("count_in", t("A bare term counts"), answers(table.counts))}
        {asksMarks && choice("marks", t("The decimal mark is"), answers(table.marks))}
        <Field
          label={<span className="text-soft">{t("Owed is told after payment")}</span>}
          labelClass="flex items-baseline gap-2"
          value={defaults.after ? String(defaults.after) : ""}
          inputMode="numeric"
          placeholder={t("none")}
          className="w-20 text-right"
          onType={(typed) => onChange({ after: Number(typed.replace(/\D/g, "").slice(0, 5)) })}
        />
        {isDated && (
          <Field
            label={<span className="text-soft">{t("or on the day")}</span>}
            labelClass="flex items-baseline gap-2"
            type="date"
            value={defaults.owed_on ?? ""}
            onType={(day) => onChange({ owed_on: day || null })}
          />
        )}
      </div>
    </>
  );
}
