import type { Statement } from "../../api/types";
import { focusSoon } from "../../hooks/focus";
import { Button } from "../../ui/button";
import { Hint } from "../../ui/hint";
import { t } from "../../texts";

interface Props {
  statement: Statement;
  /** What is lent of a price, where that is known. */
  lent: string;
  /** Whether days are stated, or about to be. */
  dated: boolean;
  /** Whether the payment is being worked from an income. */
  fromIncome: boolean;
  /** The first figure that an aim may move. */
  movable: string;
  onChange: (change: Partial<Statement>) => void;
  onIncome: () => void;
}

function firstOfNextMonth(): string {
  const now = new Date();
  const first = new Date(now.getFullYear(), now.getMonth() + 1, 1);
  return `${first.getFullYear()}-${String(first.getMonth() + 1).padStart(2, "0")}-01`;
}

/** What may be added to the statement, in one quiet row; what stands there already is not offered. */
export function AddRow({ statement, lent, dated, fromIncome, movable, onChange, onIncome }: Props) {
  const byPrice = () => {
    const stated = statement.principal.trim();
    onChange(
      statement.is_purchase
        ? { is_purchase: false, principal: lent, price: "", down: "" }
        : { is_purchase: true, price: stated, down: "0", principal: "" },
    );
    focusSoon(`[data-figure=${statement.is_purchase ? "principal" : "price"}]`);
  };
  const withDates = () => {
    onChange({ start: firstOfNextMonth() });
    focusSoon("[data-figure=start]");
  };
  const withIndex = () => {
    const asks = statement.percent.trim() === "?";
    onChange({
      floating: {
        ...{ index: t("index"), margin: asks ? "?" : "", floor: "", cap: "", on: "index" },
        ...{ resets: "half-year", first: "", lag_days: "", then: null, fixings: "", ahead: "" },
        ...{ shift: "", shift_from: "" },
      },
    });
    focusSoon("[data-figure='floating.margin']");
  };
  const withCover = () => {
    onChange({ cover: { cash_flow: "", every: "year", growth: "", ratio: "" } });
    focusSoon("[data-figure='cover.cash_flow']");
  };
  const withValue = () => {
    onChange({ value: { amount: "", highest: "" } });
    focusSoon("[data-figure='value.amount']");
  };
  const withBusinessDays = () => {
    onChange({ business_days: { calendars: "", roll: "following", adjusted: false } });
    focusSoon("[data-figure='business_days.calendars']");
  };
  const withAim = () => {
    onChange({ aim: { figure: "total_interest", is: "", by: movable } });
    focusSoon("[data-figure='aim.is']");
  };
  const offered = [
    !dated && ([t("Dates"), withDates, "day_count"] as const),
    dated &&
      !statement.business_days &&
      ([t("Business days"), withBusinessDays, "business_days"] as const),
    statement.is_purchase
      ? ([t("Amount lent, no price"), byPrice, "principal"] as const)
      : ([t("Price and down payment"), byPrice, "down_payment"] as const),
    !statement.floating && ([t("Floating rate"), withIndex, "floating"] as const),
    !statement.cover && ([t("Cash flow and cover"), withCover, "cover"] as const),
    !statement.value && ([t("Value it is lent on"), withValue, "value"] as const),
    !fromIncome && ([t("Payment from an income"), onIncome, ""] as const),
    !statement.aim && ([t("Aim at a result"), withAim, "aim"] as const),
  ].filter((each) => each !== false);
  return (
    <p className="mt-2 flex flex-wrap items-baseline gap-x-4 text-sm text-soft">
      {t("May be added:")}
      {offered.map(([label, add, word]) => (
        <Hint key={label} of={word ? [word] : []}>
          <Button look="quiet" className="underline-offset-4 hover:underline" onClick={add}>
            {label}
          </Button>
        </Hint>
      ))}
    </p>
  );
}
