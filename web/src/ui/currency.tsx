import { useDesk } from "../hooks/use-desk";
import { Choice } from "./choice";
import { t } from "../texts";

/** The currency of a loan. */
export function CurrencyChoice({
  currency,
  onChoose,
}: {
  currency: string;
  onChoose: (code: string) => void;
}) {
  const { words } = useDesk();
  return (
    <Choice
      name={t("Currency")}
      value={currency}
      shown={currency}
      options={words.currencies.map((each) => ({
        value: each.code,
        label: `${each.code}  ${each.name}`,
      }))}
      onChoose={onChoose}
    />
  );
}
