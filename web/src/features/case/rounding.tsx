import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Choice, OneOf } from "../../ui/choice";
import { Hint } from "../../ui/hint";
import { inMarks } from "../../ui/numbers";
import { filled, rich, t } from "../../texts";

interface Props {
  statement: Statement;
  onChange: (change: Partial<Statement>) => void;
}

type Rounding = NonNullable<Statement["rounding"]>;

/** How cash is rounded, as a line under the sentence. */
export function RoundingChoice({ statement, onChange }: Props) {
  const { words, marks } = useDesk();
  const { choices } = words;
  const currency = words.currencies.find((each) => each.code === statement.currency);
  const minor = currency?.minor_unit ?? "0.01";
  const rounding: Rounding = statement.rounding ?? {};
  const to = String(rounding.to ?? minor);
  const steps = [...new Set([...(currency?.steps ?? []), to])];
  const set = (change: Partial<Rounding>) => onChange({ rounding: { ...rounding, ...change } });
  const way = rounding.payment ?? "nearest";
  const repays = statement.clauses.some((clause) => clause.verb === "repay");
  return (
    <p data-list="rounding" className="mt-2 text-[0.95rem] text-soft">
      {rich("Payments are {rounded}{step}, interest is {interest}{overpaid}.", {
        rounded: (
          <Hint of={["rounding"]}>
            <OneOf
              name={t("Payments are")}
              value={way}
              options={choices.payment_rounding}
              onChoose={(payment) => set({ payment })}
            />
          </Hint>
        ),
        step: way !== "none" && (
          <>
            {" "}
            <Choice
              name={t("Step")}
              value={to}
              shown={inMarks(to, marks)}
              options={steps.map((step) => ({ value: step, label: inMarks(step, marks) }))}
              onChoose={(step) => set({ to: step === minor ? null : step })}
            />
          </>
        ),
        interest: (
          <OneOf
            name={t("Interest is")}
            value={rounding.interest ?? "nearest"}
            options={choices.interest_rounding}
            fill={(said) => filled(said, { step: inMarks(minor, marks) })}
            onChoose={(interest) => set({ interest })}
          />
        ),
        overpaid:
          repays &&
          rich("; what is repaid above what is owed is {how}", {
            how: (
              <OneOf
                name={t("Overpaid is")}
                value={rounding.overpaid ?? "cut"}
                options={choices.overpaid}
                onChoose={(overpaid) => set({ overpaid })}
              />
            ),
          }),
      })}
    </p>
  );
}
