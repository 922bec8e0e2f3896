import { useState } from "react";
import { usePayoff } from "../../api/asking";
import type { Payoff, Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useStopping } from "../../hooks/use-stopping";
import { Field } from "../../ui/field";
import { Select } from "../../ui/select";
import { Sheet } from "../../ui/sheet";
import { Facts, factsOf } from "../../ui/table";
import { Outcome } from "./what-if";
import { t } from "../../texts";

interface Props {
  statement: Statement;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** What it costs to end the loan early, and the yearly cost if it does. */
export function SettledEarly({ statement, open, onOpen }: Props) {
  const { choices, limits } = useDesk().words;
  const [at, setAt] = useState("12");
  const [kind, setKind] = useState<Payoff["kind"]>("none");
  const [figure, setFigure] = useState("1");
  const charge = { kind, figure: kind === "none" ? "" : figure };
  const found = usePayoff({ statement, at, charge }, open);
  const stopping = useStopping(["payoff"], { statement, at, charge });
  return (
    <Sheet
      title={t("Settled early")}
      about={t("The loan ended right after a payment or on a day, with what is agreed for that.")}
      open={open}
      onOpen={onOpen}
      asks
    >
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
          value={kind}
          options={choices.charges}
          onChoose={(chosen) => setKind(chosen as Payoff["kind"])}
        />
        {kind !== "none" && (
          <Field
            label={t("how much")}
            value={figure}
            maxLength={limits.typed}
            className="w-24 text-right"
            onType={setFigure}
          />
        )}
      </div>
      <Outcome error={found.error} busy={found.isFetching} stopping={stopping}>
        {found.data && <Facts facts={factsOf(found.data.told)} />}
      </Outcome>
    </Sheet>
  );
}
