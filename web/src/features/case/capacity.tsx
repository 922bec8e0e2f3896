import { useState } from "react";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { Select } from "../../ui/select";
import { t } from "../../texts";

interface Capacity {
  share: string;
  income: string;
  outgoings: string;
  per: string;
}

/** As the payment takes it: "35 % of 5,400 - 640 a month". */
function said({ share, income, outgoings, per }: Capacity): string {
  const part = share.trim() && `${share.trim()} % of `;
  const less = outgoings.trim() && ` - ${outgoings.trim()}`;
  return `${part}${income.trim()}${less} ${per}`;
}

interface Props {
  statement: Statement;
  /** How the payment was understood. */
  note: string | null | undefined;
  onType: (name: string, text: string) => void;
  onDone: () => void;
}

/** The payment from an income: what of it can be carried. */
export function CapacityLine({ statement, note, onType, onDone }: Props) {
  const { income_each: each } = useDesk().words.choices;
  const [capacity, setCapacity] = useState<Capacity>({
    share: "",
    income: "",
    outgoings: "",
    per: each[0]?.value ?? "",
  });
  const change = (changed: Partial<Capacity>) => {
    const next = { ...capacity, ...changed };
    setCapacity(next);
    if (!next.income.trim()) return;
    // Where the payment was asked for, the amount lent is now what can be found.
    if (statement.payment.trim() === "?")
      onType(statement.is_purchase ? "price" : "principal", "?");
    onType("payment", said(next));
  };
  const look = "mx-1 text-right text-ink";
  return (
    <span className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1 rounded border border-rule bg-sheet px-3 py-2">
      <Field
        label={t("Income")}
        id="capacity-income"
        autoFocus
        value={capacity.income}
        placeholder="5,400"
        maxLength={40}
        className={`${look} w-28`}
        onType={(income) => change({ income })}
      />
      <Select
        name={t("Income each")}
        value={capacity.per}
        options={each}
        onChoose={(per) => change({ per })}
      />
      <Field
        label={t("of which")}
        value={capacity.share}
        placeholder={t("all")}
        maxLength={20}
        after="%"
        className={`${look} w-16`}
        onType={(share) => change({ share })}
      />
      <Field
        label={t("less outgoings")}
        value={capacity.outgoings}
        placeholder="0"
        maxLength={40}
        className={`${look} w-24`}
        onType={(outgoings) => change({ outgoings })}
      />
      <Button look="link" onClick={onDone}>
        {t("Done")}
      </Button>
      {capacity.income.trim() && note && (
        <span role="status" className="w-full text-ink">
          {note}
        </span>
      )}
    </span>
  );
}
