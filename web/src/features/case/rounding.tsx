import type { Statement } from "../../api/client";
import { Choice } from "../../ui/choice";
import { inMarks } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";

interface Props {
  statement: Statement;
  onChange: (change: Partial<Statement>) => void;
}

type Rounding = NonNullable<Statement["rounding"]>;

/** How cash is rounded, as a line under the sentence. */
export function RoundingChoice({ statement, onChange }: Props) {
  const { words, marks } = useDesk();
  const decimals = words.currencies.find((each) => each.code === statement.currency)?.decimals ?? 2;
  const rounding: Rounding = statement.rounding ?? {};
  const minor = decimals ? `0.${"1".padStart(decimals, "0")}` : "1";
  const to = rounding.to ?? minor;
  const steps = [
    ...new Set([minor, ...(decimals === 2 ? ["0.05", "0.10"] : []), "1", "10", String(to)]),
  ];
  const set = (change: Partial<Rounding>) => onChange({ rounding: { ...rounding, ...change } });
  const way = rounding.payment ?? "nearest";
  const repays = statement.clauses?.some((clause) => clause.verb === "repay");
  return (
    <p className="mt-2 text-[0.95rem] text-soft">
      Payments are{" "}
      <Choice
        name="Payments are"
        value={way}
        shown={
          { nearest: "rounded to the nearest", up: "rounded up to the next", none: "not rounded" }[
            way
          ]
        }
        options={[
          { value: "nearest", label: "rounded to the nearest" },
          { value: "up", label: "rounded up to the next" },
          { value: "none", label: "not rounded" },
        ]}
        onChoose={(payment) => set({ payment: payment as NonNullable<Rounding["payment"]> })}
      />
      {way !== "none" && (
        <>
          {" "}
          <Choice
            name="Step"
            value={String(to)}
            shown={inMarks(String(to), marks)}
            options={steps.map((step) => ({ value: step, label: inMarks(step, marks) }))}
            onChoose={(step) => set({ to: step === minor ? null : step })}
          />
        </>
      )}
      , interest is{" "}
      <Choice
        name="Interest is"
        value={rounding.interest ?? "nearest"}
        shown={
          rounding.interest === "none" ? "carried unrounded" : `rounded to ${inMarks(minor, marks)}`
        }
        options={[
          { value: "nearest", label: `rounded to ${inMarks(minor, marks)}` },
          { value: "none", label: "carried unrounded" },
        ]}
        onChoose={(interest) => set({ interest: interest as NonNullable<Rounding["interest"]> })}
      />
      {repays && (
        <>
          ; what is repaid above what is owed is{" "}
          <Choice
            name="Overpaid is"
            value={rounding.overpaid ?? "cut"}
            shown={rounding.overpaid === "shown" ? "shown as overpaid" : "cut to what is owed"}
            options={[
              { value: "cut", label: "cut to what is owed" },
              { value: "shown", label: "shown as overpaid" },
            ]}
            onChoose={(over) => set({ overpaid: over as NonNullable<Rounding["overpaid"]> })}
          />
        </>
      )}
      .
    </p>
  );
}
