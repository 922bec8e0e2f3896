import { Chart, Curve, Dot, Label, Level, scale } from "../../ui/chart";
import { t } from "../../texts";

const HEIGHT = 150;
const PAD = 8;

interface Props {
  ahead: string[];
  /** The place from which on it stays ahead. */
  from: number | null;
  /** The number of the payment that is place 0. */
  begins?: number;
  label: string;
}

/** By how much one offer is ahead of another after each payment; only for the eye. */
export function Ahead({ ahead, from, begins = 0, label }: Props) {
  const values = ahead.map(Number);
  const last = values.length - 1;
  return (
    <Chart label={label} height={HEIGHT} first={860} className="mt-3">
      {(width) => {
        const x = scale(0, last, PAD, width - PAD);
        const y = scale(Math.min(...values, 0), Math.max(...values, 0), HEIGHT - 22, 18);
        return (
          <>
            <Level y={y(0)} from={PAD} to={width - PAD} />
            <Curve points={values.map((value, payment) => [x(payment), y(value)] as const)} />
            {from !== null && (
              <>
                <Dot x={x(from)} y={y(0)} />
                <Label x={x(from)} y={y(0) + 20} at="middle" strong>
                  {t("payment {paidOff}", { paidOff: begins + from })}
                </Label>
              </>
            )}
            <Label x={PAD} y={HEIGHT - 4}>
              {begins ? t("payment {last}", { last: begins }) : t("start")}
            </Label>
            <Label x={width - PAD} y={HEIGHT - 4} at="right">
              {t("payment {last}", { last: begins + last })}
            </Label>
          </>
        );
      }}
    </Chart>
  );
}
