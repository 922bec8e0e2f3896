import { useState } from "react";
import type { Payoff, Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Field } from "../../ui/field";
import { Select } from "../../ui/select";
import { t } from "../../texts";

/** When a loan is ended early, and what is agreed for that, as typed. */
export function useEnding() {
  const [at, setAt] = useState("12");
  const [charge, setCharge] = useState<Payoff>({ kind: "none", figure: "1", spread: "", free: "" });
  const put = (change: Partial<Payoff>) => setCharge((now) => ({ ...now, ...change }));
  const isCharged = charge.kind !== "none";
  const agreed = isCharged ? charge : { ...charge, figure: "", spread: "", free: "" };
  return { at, setAt, charge, put, isCharged, agreed };
}

interface Props {
  statement: Statement;
  ending: ReturnType<typeof useEnding>;
}

/** The figure that each kind begins with: a percent, one for each year, months, an amount. */
const BEGINS: Record<Payoff["kind"], string> = {
  none: "",
  percent: "1",
  declining: "5; 4; 3; 2; 1",
  months: "3",
  amount: "250",
  "make-whole": "",
};

/** Where it is stated when a loan ends, and with what charge. */
export function EndingFields({ statement, ending }: Props) {
  const { choices, limits } = useDesk().words;
  const { at, setAt, charge, put, isCharged } = ending;
  const isWhole = charge.kind === "make-whole";
  const falls = charge.kind === "declining";
  return (
    <div className="mt-4 flex flex-wrap items-baseline gap-x-3 gap-y-2">
      <Field
        label={statement.start ? t("After payment, or on a day") : t("After payment")}
        value={at}
        maxLength={limits.stretch}
        placeholder={statement.start ? t("12 or 15 Mar 2029") : "12"}
        className={`${statement.start ? "w-36" : "w-20"} text-right`}
        onType={setAt}
      />
      <span>{t("with")}</span>
      <Select
        name={t("What is agreed")}
        value={charge.kind}
        options={choices.charges}
        onChoose={(kind) => {
          const chosen = kind as Payoff["kind"];
          put({ kind: chosen, figure: BEGINS[chosen], spread: "" });
        }}
      />
      {isCharged && (
        <Field
          label={
            isWhole ? t("reference rate, %") : falls ? t("percent of each year") : t("how much")
          }
          value={charge.figure}
          maxLength={limits.typed}
          placeholder={isWhole ? "2.40" : undefined}
          className={`${falls ? "w-40" : "w-24"} text-right`}
          onType={(figure) => put({ figure })}
        />
      )}
      {isWhole && (
        <Field
          label={t("and a spread of")}
          value={charge.spread}
          maxLength={limits.typed}
          placeholder="0.50"
          className="w-24 text-right"
          onType={(spread) => put({ spread })}
        />
      )}
      {isCharged && charge.kind !== "amount" && (
        <Field
          label={t("free each year")}
          value={charge.free}
          maxLength={limits.typed}
          placeholder={t("10 % or 5k")}
          className="w-28 text-right"
          onType={(free) => put({ free })}
        />
      )}
    </div>
  );
}
