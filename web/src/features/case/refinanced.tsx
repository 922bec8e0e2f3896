import { useState } from "react";
import { useRefinancing } from "../../api/asking";
import type { Content, NewOffer } from "../../api/types";
import { useSettled } from "../../hooks/use-settled";
import { useStopping } from "../../hooks/use-stopping";
import { Select } from "../../ui/select";
import { Sheet } from "../../ui/sheet";
import { ToldTable } from "../../ui/table";
import { Ahead } from "./ahead";
import { EndingFields, useEnding } from "./ending";
import { OpenAs, Outcome, Typed } from "./what-if";
import { useOpenAs } from "./use-started";
import { t } from "../../texts";

const NO_OFFER: NewOffer = {
  ...{ percent: "", count: "", balance: "", fee: "", is_lent: true, discount: "" },
};

interface Props {
  content: Content;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** The loan ended early with its charge, and lent anew at another rate. */
export function Refinanced({ content, open, onOpen }: Props) {
  const { statement } = content;
  const ending = useEnding();
  const [offer, setOffer] = useState(NO_OFFER);
  const put = (change: Partial<NewOffer>) => setOffer((now) => ({ ...now, ...change }));
  const asked = {
    statement: useSettled(statement, 120),
    at: useSettled(ending.at, 120),
    charge: useSettled(ending.agreed, 120),
    offer: useSettled(offer, 120),
  };
  const isStated =
    offer.percent.trim() !== "" && (!ending.isCharged || ending.charge.figure.trim() !== "");
  const found = useRefinancing(asked, open && isStated);
  const stopping = useStopping(["refinancing"], asked);
  const take = useOpenAs(content);
  const { data } = found;
  return (
    <Sheet
      title={t("Refinanced")}
      about={t(
        "This loan ended early with its charge, and what is then owed lent anew: from when on that pays, and what it is worth.",
      )}
      open={open}
      onOpen={onOpen}
      asks
      wide
    >
      <EndingFields statement={statement} ending={ending} />
      <div className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Typed
          label={t("Lent anew at")}
          value={offer.percent}
          placeholder="4.90"
          after={t("%, quoted as this one")}
          onType={(percent) => put({ percent })}
        />
        <Typed
          label={t("over")}
          value={offer.count}
          placeholder={data ? String(data.payments_after) : t("what is left")}
          after={t("payments")}
          onType={(count) => put({ count })}
        />
        <Typed
          label={t("left at its end")}
          value={offer.balance}
          placeholder={t("as now")}
          onType={(balance) => put({ balance })}
        />
        <Typed
          label={t("for a fee of")}
          value={offer.fee}
          placeholder={t("none")}
          onType={(fee) => put({ fee })}
        />
        <span>
          {t("charge and fee")}{" "}
          <Select
            name={t("Charge and fee")}
            value={offer.is_lent ? "lent" : "paid"}
            options={[
              { value: "lent", label: t("lent, too") },
              { value: "paid", label: t("paid at once") },
            ]}
            onChoose={(way) => put({ is_lent: way === "lent" })}
          />
        </span>
        <Typed
          label={t("money later counts less at")}
          value={offer.discount}
          placeholder={offer.percent || "4.90"}
          after="%"
          onType={(discount) => put({ discount })}
        />
      </div>
      {isStated ? (
        <Outcome error={found.error} busy={found.isFetching} stopping={stopping}>
          {data && (
            <>
              <p className="font-serif text-xl font-semibold">{data.says}</p>
              <p className="mt-2">{data.terms}</p>
              <Ahead
                ahead={data.ahead}
                from={data.pays_from}
                begins={data.payoff.number}
                label={data.says}
              />
              <ToldTable label={t("Both loans")} told={data.told} strong={4} className="mt-3" />
              <OpenAs
                taking={take}
                onTake={() => take.mutate({ statement: data.statement, suffix: t("lent anew") })}
              >
                {t("Open the new loan as a case")}
              </OpenAs>
            </>
          )}
        </Outcome>
      ) : (
        <p className="mt-4 text-soft">{t("Type the rate of the new loan, and what is agreed.")}</p>
      )}
    </Sheet>
  );
}
