import type { Owed } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { inMarks } from "../../ui/numbers";
import { t } from "../../texts";

/** What is owed on a day between two payments. */
export function OnADay({ owed }: { owed: Owed }) {
  const { marks } = useDesk();
  const money = (text: string) => inMarks(text, marks);
  return (
    <>
      {owed.what}
      <br />
      <b>{t("owes {owes}", { owes: money(owed.owed) })}</b>
      <br />
      {owed.per_day
        ? t("{accrued} of it accrued, {perDay} a day", {
            accrued: money(owed.accrued),
            perDay: money(owed.per_day),
          })
        : t("{accrued} of it accrued", { accrued: money(owed.accrued) })}
    </>
  );
}
