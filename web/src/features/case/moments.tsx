import { useState } from "react";
import { useBalanceAt, type usePeriodTotals } from "../../api/asking";
import type { Owed, PayoffRounding, PeriodTotals, Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useSettled } from "../../hooks/use-settled";
import { OneOf } from "../../ui/choice";
import { Field } from "../../ui/field";
import { useDays } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { Cell, Heads, RowHead, Table } from "../../ui/table";
import { Wrong } from "../../ui/wrong";
import { rich, t } from "../../texts";

const PAUSE = 90;

interface Props {
  statement: Statement;
  /** Whether the schedule on the page is that of the statement. */
  ready: boolean;
  stretch: string;
  found: ReturnType<typeof usePeriodTotals>;
  onStretch: (typed: string) => void;
}

const LOOK = "grow min-w-0 text-base text-ink";
const BESIDE = "flex items-baseline gap-2 text-sm whitespace-nowrap text-soft";

/** What is owed at any moment, and what any stretch adds up to, for the typing. */
export function Asking({ statement, ready, stretch, found, onStretch }: Props) {
  const { words } = useDesk();
  const { choices, limits } = words;
  const [at, setAt] = useState("");
  const [payoff, setPayoff] = useState<PayoffRounding>("nearest");
  const owed = useBalanceAt(statement, useSettled(at.trim(), PAUSE), payoff, ready);
  const dated = Boolean(statement.start);
  const moments = at.trim() && !owed.error ? (owed.data ?? []) : [];
  const sums = stretch.trim() && !found.error ? (found.data ?? []) : [];
  return (
    <section
      aria-label={t("Ask the schedule")}
      className="mt-3 grid gap-x-10 gap-y-3 lg:grid-cols-2"
    >
      <div>
        <Field
          label={t("Owed at")}
          labelClass={BESIDE}
          id="ask-owed"
          value={at}
          maxLength={limits.asked}
          placeholder={
            dated ? t("13; every 12; year 2; 15 Mar 2029") : t("13; every 12; year 2; last 3")
          }
          leaves
          className={LOOK}
          onType={setAt}
        />
        <Wrong error={at.trim() ? owed.error : null} className="mt-1 text-[0.95rem]" />
        {moments.length > 0 && (
          <div className="mt-1 max-h-72 overflow-auto">
            <Moments moments={moments} dated={dated} currency={statement.currency} />
            {moments.some((each) => each.per_day) && (
              <p className="mt-1 text-sm text-soft">
                {rich("Interest to the day is {rounded}.", {
                  rounded: (
                    <OneOf
                      name={t("Interest to the day is")}
                      value={payoff}
                      options={choices.payoff_rounding}
                      onChoose={setPayoff}
                    />
                  ),
                })}
              </p>
            )}
          </div>
        )}
      </div>
      <div>
        <Field
          label={t("Totals of")}
          labelClass={BESIDE}
          id="ask-stretch"
          value={stretch}
          maxLength={limits.stretch}
          placeholder={
            dated
              ? t("13-24; year 2; every 12; 2028")
              : t("13-24; year 2; every 12; or drag on the line")
          }
          leaves
          className={LOOK}
          onType={onStretch}
        />
        <Wrong error={stretch.trim() ? found.error : null} className="mt-1 text-[0.95rem]" />
        {sums.map((sum) => (
          <Sum key={`${sum.first}-${sum.last}`} sum={sum} />
        ))}
      </div>
    </section>
  );
}

function Moments({
  moments,
  dated,
  currency,
}: {
  moments: readonly Owed[];
  dated: boolean;
  currency: string;
}) {
  const { marks } = useDesk();
  const money = (text: string) => inMarks(text, marks);
  return (
    <Table aria-label={t("What is owed")} className="text-[0.95rem]">
      <Heads
        heads={[t("Moment"), ...(dated ? [t("Accrued")] : []), t("Owed, {currency}", { currency })]}
      />
      <tbody>
        {moments.map((each) => (
          <tr key={each.what} className="border-b border-rule">
            <RowHead className="font-normal">
              {each.what}
              {each.per_day && (
                <span className="ml-2 text-sm text-soft">
                  {t("{perDay} a day more", { perDay: money(each.per_day) })}
                </span>
              )}
            </RowHead>
            {dated && <Cell>{money(each.accrued)}</Cell>}
            <Cell className="font-semibold">{money(each.owed)}</Cell>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function Sum({ sum }: { sum: PeriodTotals }) {
  const { marks } = useDesk();
  const { day } = useDays();
  const money = (text: string) => inMarks(text, marks);
  return (
    <p role="status" className="mt-1 text-[0.95rem]">
      {rich(
        "{what}{days}: paid {paid}, interest {interest}, principal {principal}{added}; owed {opening} before, {closing} after.",
        {
          what: <b>{sum.what}</b>,
          days:
            sum.begins &&
            sum.ends &&
            ` ${t("({begins} to {ends})", { begins: day(sum.begins), ends: day(sum.ends) })}`,
          paid: <b>{money(sum.paid)}</b>,
          interest: <b>{money(sum.interest)}</b>,
          principal: <b>{money(sum.principal)}</b>,
          added:
            Number(sum.added) !== 0 &&
            rich(", further lent and fees {added}", { added: <b>{money(sum.added)}</b> }),
          opening: money(sum.opening),
          closing: money(sum.closing),
        },
      )}
    </p>
  );
}
