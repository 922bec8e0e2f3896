import { usePoints } from "../../api/asking";
import type { Content, Points } from "../../api/types";
import { useOpenAs } from "../../hooks/use-opened";
import { useSettled } from "../../hooks/use-settled";
import { useStopping } from "../../hooks/use-stopping";
import { Chart, Curve, Dot, Label, Level, scale } from "../../ui/chart";
import { Sheet } from "../../ui/sheet";
import { ToldTable } from "../../ui/table";
import { OpenAs, Outcome, Typed } from "./what-if";
import { t } from "../../texts";

export const NO_POINTS: Points = { percent: "", points: "1", ends: "" };

interface Props {
  content: Content;
  points: Points;
  onPoints: (points: Points) => void;
  open: boolean;
  onOpen: (open: boolean) => void;
}

const HEIGHT = 150;
const PAD = 8;

/** By how much the offer with points is ahead after each payment; only for the eye. */
function Ahead({ ahead, paidOff }: { ahead: string[]; paidOff: number | null }) {
  const values = ahead.map(Number);
  const last = values.length - 1;
  const label =
    paidOff === null
      ? t("The offer with points never comes ahead")
      : t("The offer with points comes ahead after payment {paidOff}", { paidOff });
  return (
    <Chart label={label} height={HEIGHT} first={860} className="mt-3">
      {(width) => {
        const x = scale(0, last, PAD, width - PAD);
        const y = scale(Math.min(...values, 0), Math.max(...values, 0), HEIGHT - 22, 18);
        return (
          <>
            <Level y={y(0)} from={PAD} to={width - PAD} />
            <Curve points={values.map((value, payment) => [x(payment), y(value)] as const)} />
            {paidOff !== null && (
              <>
                <Dot x={x(paidOff)} y={y(0)} />
                <Label x={x(paidOff)} y={y(0) + 20} at="middle" strong>
                  {t("payment {paidOff}", { paidOff })}
                </Label>
              </>
            )}
            <Label x={PAD} y={HEIGHT - 4}>
              {t("start")}
            </Label>
            <Label x={width - PAD} y={HEIGHT - 4} at="right">
              {t("payment {last}", { last })}
            </Label>
          </>
        );
      }}
    </Chart>
  );
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
              <Ahead ahead={data.ahead} paidOff={data.paid_off} />
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
