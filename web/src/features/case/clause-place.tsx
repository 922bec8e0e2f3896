import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import type { OneProps } from "./clauses";
import { rich, t } from "../../texts";

/** The months one begins with where a clause keeps to some of the year. */
export const WINTER = [12, 1, 2];

type Kind = "once" | "stretch" | "months";
const SHOWN = {
  once: t("at payment"),
  stretch: t("from payment"),
  months: t("every year"),
} as const;
const LABELS = {
  once: t("at one payment"),
  stretch: t("from one payment on"),
  months: t("in some months of the year"),
} as const;

/** Where a clause stands, as words and figures of the sentence. */
export function Where({ statement, clause, number, figure, onChange }: OneProps) {
  const { words } = useDesk();
  const of = t(", clause {number}", { number: number + 1 });
  const name = (part: string) => `clauses.${number}.${part}`;
  const isMovable = !words.verbs.find((each) => each.name === clause.verb)?.is_stretch;
  const kind: Kind = clause.months.length > 0 ? "months" : clause.is_stretch ? "stretch" : "once";
  const kinds: Kind[] = [
    ...(isMovable ? (["once"] as const) : []),
    "stretch",
    ...(isMovable && statement.start ? (["months"] as const) : []),
  ];
  const choose = (value: string) =>
    onChange(
      value === "once"
        ? { is_stretch: false, months: [], at: clause.at || clause.from }
        : {
            is_stretch: true,
            from: value === "months" ? "" : clause.from || clause.at,
            months: value === "months" ? WINTER : [],
          },
    );
  return (
    <>
      {kinds.length > 1 ? (
        <Choice
          name={t("Where{of}", { of })}
          value={kind}
          shown={SHOWN[kind]}
          options={kinds.map((value) => ({ value, label: LABELS[value] }))}
          onChoose={choose}
        />
      ) : (
        SHOWN[kind]
      )}{" "}
      {kind === "once" && figure(name("at"))}
      {kind === "stretch" &&
        rich("{from} to {to}", { from: figure(name("from")), to: figure(name("to")) })}
      {kind === "months" && (
        <>
          {clause.from !== "" && (
            <>{rich("from payment {from}", { from: figure(name("from")) })} </>
          )}
          <Months clause={clause} of={of} onChange={onChange} />
        </>
      )}
    </>
  );
}

function Months({ clause, of, onChange }: Pick<OneProps, "clause" | "onChange"> & { of: string }) {
  const { words } = useDesk();
  const chosen = clause.months;
  return rich("in {months}", {
    months: (
      <span
        role="group"
        aria-label={t("Months{of}", { of })}
        className="inline-flex flex-wrap align-middle font-sans text-[0.8rem]"
      >
        {words.months.map((name, place) => {
          const month = place + 1;
          const on = chosen.includes(month);
          return (
            <Button
              key={name}
              look="bare"
              aria-pressed={on}
              className={`min-h-6 border border-rule px-1 first:rounded-l last:rounded-r ${on ? "bg-ink text-paper" : "text-soft"}`}
              onClick={() =>
                onChange({
                  months: on ? chosen.filter((each) => each !== month) : [...chosen, month],
                })
              }
            >
              {name.slice(0, 3)}
            </Button>
          );
        })}
      </span>
    ),
  });
}
