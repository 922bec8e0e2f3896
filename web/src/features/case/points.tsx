import { usePoints } from "../../api/asking";
import type { Content, Points } from "../../api/types";
import { useSettled } from "../../hooks/use-settled";
import { useStopping } from "../../hooks/use-stopping";
import { Sheet } from "../../ui/sheet";
import { ToldTable } from "../../ui/table";
import { Ahead } from "./ahead";
import { OpenAs, Outcome, Typed } from "./what-if";
import { useOpenAs } from "./use-started";
import { t } from "../../texts";

export const NO_POINTS: Points = { percent: "", points: "1", ends: "" };

interface Props {
  content: Content;
  points: Points;
  onPoints: (points: Points) => void;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** The loan as it stands against the same at a lower rate with points. */
export function PointsForALowerRate({ content, points, onPoints, open, onOpen }: Props) {
  const { statement } = content;
  const isStated = points.percent.trim() !== "";
  const asked = { statement: useSettled(statement, 120), points: useSettled(points, 120) };
  const found = usePoints(asked, open && isStated);
  const stopping = useStopping(["points"], asked);
  const take = useOpenAs(content);
  const { data } = found;
  return (
    <Sheet
      title={t("Points for a lower rate")}
      about={t(
        "This loan against the same at another rate, for which points are paid apart at the start. A point is a percent of what is lent.",
      )}
      open={open}
      onOpen={onOpen}
      asks
      wide
    >
      <div className="mt-4 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Typed
          label={t("The other rate")}
          value={points.percent}
          placeholder="5.85"
          after={t("%, quoted as this one")}
          onType={(percent) => onPoints({ ...points, percent })}
        />
        <Typed
          label={t("for")}
          value={points.points}
          after={t("points")}
          onType={(typed) => onPoints({ ...points, points: typed })}
        />
        <Typed
          label={t("If it ends after payments")}
          wide
          value={points.ends}
          placeholder={data?.ends_typed ?? "12; 24; 36; 60"}
          onType={(ends) => onPoints({ ...points, ends })}
        />
      </div>
      {!isStated ? (
        <p className="mt-4 text-soft">{t("Type the rate of the other offer.")}</p>
      ) : (
        <Outcome error={found.error} busy={found.isFetching} stopping={stopping}>
          {data && (
            <>
              <p className="font-serif text-xl font-semibold">{data.says}</p>
              <p className="mt-2">{data.terms}</p>
              <Ahead
                ahead={data.ahead}
                from={data.paid_off}
                label={
                  data.paid_off === null
                    ? t("The offer with points never comes ahead")
                    : t("The offer with points comes ahead after payment {paidOff}", {
                        paidOff: data.paid_off,
                      })
                }
              />
              <ToldTable
                label={t("If the loan ends earlier")}
                told={data.told}
                strong={0}
                className="mt-3"
              />
              <OpenAs
                taking={take}
                onTake={() => take.mutate({ statement: data.statement, suffix: t("with points") })}
              >
                {t("Open the offer with points as a case")}
              </OpenAs>
            </>
          )}
        </Outcome>
      )}
    </Sheet>
  );
}
