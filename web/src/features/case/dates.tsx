import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { OneOf } from "../../ui/choice";
import { rich, t } from "../../texts";

interface Props {
  statement: Statement;
  /** Whether days are stated, or about to be. */
  dated: boolean;
  onChange: (change: Partial<Statement>) => void;
  onUndated: () => void;
}

/** Whether a loan is on the calendar, and how its days are counted. */
export function DatesLine({ statement, dated, onChange, onUndated }: Props) {
  const { choices } = useDesk().words;
  if (!dated) return null;
  return (
    <p className="mt-1 text-[0.95rem] text-soft">
      {!statement.start &&
        `${t("Until the day it is lent on is stated, it is worked without dates.")} `}
      {rich("Days are counted {how}{odd}. {undated}", {
        how: (
          <OneOf
            name={t("Days are counted")}
            value={statement.day_count}
            options={choices.day_counts}
            onChoose={(day_count) => onChange({ day_count })}
          />
        ),
        odd:
          statement.day_count === "equal" &&
          rich(", an odd first time bears {how}", {
            how: (
              <OneOf
                name={t("Odd days bear")}
                value={statement.odd_days}
                options={choices.odd_days}
                onChoose={(odd_days) => onChange({ odd_days })}
              />
            ),
          }),
        undated: (
          <Button
            look="dotted"
            onClick={() => {
              onChange({
                ...{ start: "", first_payment: "", day_count: "equal", odd_days: "simple" },
                business_days: null,
              });
              onUndated();
            }}
          >
            {t("Take the dates off")}
          </Button>
        ),
      })}
    </p>
  );
}
