import type { ReactNode } from "react";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { speakerOf, within } from "../../hooks/words";
import { Choice, OneOf } from "../../ui/choice";
import { CurrencyChoice } from "../../ui/currency";
import { InUnit } from "../../ui/in-unit";
import type { EntryName } from "./entries";
import { filled, rich, t } from "../../texts";

interface Props {
  statement: Statement;
  figure: (name: EntryName) => ReactNode;
  /** What is lent of a price, where that is known. */
  lent: string;
  onChange: (change: Partial<Statement>) => void;
}

/** Who speaks, and what is lent: an amount, or the rest of a price. */
export function Lent({ statement, figure, lent, onChange }: Props) {
  const { words } = useDesk();
  const speaker = speakerOf(statement.we, words);
  const currency = (
    <CurrencyChoice
      currency={statement.currency}
      onChoose={(chosen) => onChange({ currency: chosen })}
    />
  );
  const speaks = (
    <Choice
      name={t("Who speaks")}
      value={speaker.name}
      shown={statement.is_purchase ? within(speaker.label) : speaker.label}
      options={words.choices.we.map(({ name, label }) => ({ value: name, label }))}
      onChoose={(we) => onChange({ we: we as Statement["we"] })}
    />
  );
  if (!statement.is_purchase)
    return (
      <>
        {speaks}{" "}
        <InUnit unit={statement.currency} said={currency}>
          {figure("principal")}
        </InUnit>
      </>
    );
  return (
    <>
      {rich("Of a price of {price} {down} {unit} is paid at once; {somebody} the rest", {
        price: (
          <InUnit unit={statement.currency} said={currency}>
            {figure("price")}
          </InUnit>
        ),
        down: figure("down"),
        unit: (
          <OneOf
            name={t("Down payment in")}
            value={statement.down_in_percent ? "percent" : "amount"}
            options={words.choices.down_payment}
            fill={(said) => filled(said, { currency: statement.currency })}
            onChoose={(value) => onChange({ down_in_percent: value === "percent" })}
          />
        ),
        somebody: speaks,
      })}
      {lent && (
        <>
          , <b className="font-sans">{lent}</b>,
        </>
      )}
    </>
  );
}
