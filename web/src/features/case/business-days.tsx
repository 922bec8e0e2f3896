import type { ReactNode } from "react";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { AsideButton } from "../../ui/aside-button";
import { OneOf } from "../../ui/choice";
import type { EntryName } from "./entries";
import { rich, t } from "../../texts";

interface Props {
  statement: Statement;
  figure: (name: EntryName) => ReactNode;
  onChange: (change: Partial<Statement>) => void;
}

/** Whose business days payments are made on, and what becomes of those that fall on other days. */
export function BusinessDaysLine({ statement, figure, onChange }: Props) {
  const { choices } = useDesk().words;
  const days = statement.business_days;
  if (!days) return null;
  const put = (change: Partial<typeof days>) => onChange({ business_days: { ...days, ...change } });
  return (
    <p className="mt-2 font-serif text-[1.15rem] leading-[2.2rem]">
      {rich("Paid on business days of {calendars}, {roll}{interest}.", {
        calendars: figure("business_days.calendars"),
        roll: (
          <OneOf
            name={t("A payment on another day moves")}
            value={days.roll}
            options={choices.rolls}
            onChoose={(roll) => put({ roll })}
          />
        ),
        // Where every period is alike its days do not matter.
        interest:
          (statement.day_count !== "equal" || days.adjusted) &&
          rich(", interest {adjusted}", {
            adjusted: (
              <OneOf
                name={t("Interest is counted")}
                value={days.adjusted ? "yes" : "no"}
                options={choices.adjusted}
                onChoose={(adjusted) => put({ adjusted: adjusted === "yes" })}
              />
            ),
          }),
      })}{" "}
      <AsideButton onClick={() => onChange({ business_days: null })}>
        {t("Pay on any day")}
      </AsideButton>
    </p>
  );
}
