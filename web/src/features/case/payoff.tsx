import { usePayoff } from "../../api/asking";
import type { Statement } from "../../api/types";
import { useStopping } from "../../hooks/use-stopping";
import { Sheet } from "../../ui/sheet";
import { Facts, factsOf } from "../../ui/table";
import { EndingFields, useEnding } from "./ending";
import { Outcome } from "./what-if";
import { t } from "../../texts";

interface Props {
  statement: Statement;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** What it costs to end the loan early, and the yearly cost if it does. */
export function SettledEarly({ statement, open, onOpen }: Props) {
  const ending = useEnding();
  const asked = { statement, at: ending.at, charge: ending.agreed };
  const isStated = !ending.isCharged || ending.charge.figure.trim() !== "";
  const found = usePayoff(asked, open && isStated);
  const stopping = useStopping(["payoff"], asked);
  return (
    <Sheet
      title={t("Settled early")}
      about={t("The loan ended right after a payment or on a day, with what is agreed for that.")}
      open={open}
      onOpen={onOpen}
      asks
    >
      <EndingFields statement={statement} ending={ending} />
      {isStated ? (
        <Outcome error={found.error} busy={found.isFetching} stopping={stopping}>
          {found.data && <Facts facts={factsOf(found.data.told)} />}
        </Outcome>
      ) : (
        <p className="mt-4 text-soft">{t("Type what is agreed.")}</p>
      )}
    </Sheet>
  );
}
