import type { ReactNode } from "react";
import type { Reading, Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { AsideButton } from "../../ui/aside-button";
import { Choice } from "../../ui/choice";
import { InUnit } from "../../ui/in-unit";
import { everyChosen, everyOptions, periodOf } from "../../ui/quoting";
import type { EntryName } from "./entries";
import { rich, t } from "../../texts";

interface Props {
  statement: Statement;
  readings: Record<string, Reading> | undefined;
  figure: (name: EntryName) => ReactNode;
  onChange: (change: Partial<Statement>) => void;
}

/** What bounds the loan: the cash flow that is to cover its payments, the value it is lent on. */
export function Bounds({ statement, readings, figure, onChange }: Props) {
  const { words } = useDesk();
  const { cover, value } = statement;
  if (!cover && !value) return null;
  const unit = <span className="text-soft">{statement.currency}</span>;
  // Cash flows year by year do not grow besides: then the server reads no growth.
  const grows = !readings || "cover.growth" in readings;
  const isSculpted = statement.repaid === "sculpted";
  const isOpen = statement.principal.trim() === "?" && !statement.payment.trim();
  return (
    <div className="mt-2 font-serif text-[1.15rem] leading-[2.2rem]" data-bounds>
      {cover && (
        <p>
          {rich(
            "Out of a cash flow of {amount} each {period}{growth} the payments are covered {ratio} times{least}.",
            {
              amount: (
                <InUnit unit={statement.currency} said={unit}>
                  {figure("cover.cash_flow")}
                </InUnit>
              ),
              period: (
                <Choice
                  name={t("Period of the cash flow")}
                  value={String(cover.every)}
                  shown={periodOf(cover.every, words).noun}
                  options={everyOptions(cover.every, words)}
                  onChoose={(every) => onChange({ cover: { ...cover, every: everyChosen(every) } })}
                />
              ),
              growth: grows && (
                <>{rich(", growing {percent} % a year,", { percent: figure("cover.growth") })}</>
              ),
              ratio: figure("cover.ratio"),
              least: !isSculpted && t(" at least"),
            },
          )}{" "}
          <AsideButton onClick={() => onChange({ cover: null })}>
            {t("Take the cash flow off")}
          </AsideButton>
        </p>
      )}
      {value && (
        <p>
          {rich("Lent on a value of {amount}, at most {percent} % of it.", {
            amount: (
              <InUnit unit={statement.currency} said={unit}>
                {figure("value.amount")}
              </InUnit>
            ),
            percent: figure("value.highest"),
          })}{" "}
          <AsideButton onClick={() => onChange({ value: null })}>
            {t("Take the value off")}
          </AsideButton>
        </p>
      )}
      {!isOpen && !isSculpted && (
        <p className="leading-normal">
          <AsideButton onClick={() => onChange({ principal: "?", payment: "" })}>
            {t("What can be lent within this?")}
          </AsideButton>
        </p>
      )}
    </div>
  );
}
