import type { Variations } from "../../api/types";
import { Button } from "../../ui/button";
import { Cell, Heads, RowHead, Table } from "../../ui/table";
import { Trend } from "./trend";
import { t } from "../../texts";

/** Where a point is not worked yet, and where there is no such result. */
export const TO_COME = "…";
export const NONE = "–";

export interface SweepProps {
  data: Variations;
  /** How many points are worked. */
  worked: number;
  /** Opens a point as a case; `said` tells its values. */
  onTake: (values: Record<string, string>, said: string) => void;
}

/** One figure varied: a row for each value, and the curve of the first result. */
export function SweepList({ data, worked, onTake }: SweepProps) {
  const { swept, told } = data;
  const results = Object.keys(swept.results);
  const path = data.varied[0]?.path ?? "";
  const title = told.titles[0] ?? "";
  return (
    <>
      <Trend data={data} />
      <Table aria-label={t("What moves it")} className="mt-3">
        <Heads heads={[title, ...results.map((each) => told.heads[each]), ""]} />
        <tbody>
          {(told.values[0] ?? []).map((shown, row) => {
            const stands = told.stands[0] === row;
            const reason = swept.reasons[String(row)];
            const value = swept.values[0]?.[row] ?? "";
            return (
              <tr
                key={row}
                className={`border-b border-rule ${stands ? "bg-owed-fill font-semibold" : ""}`}
              >
                <RowHead>
                  {shown}
                  {stands && <span className="text-sm text-soft"> {t("as it stands")}</span>}
                </RowHead>
                {reason ? (
                  <Cell colSpan={results.length} className="text-soft">
                    {reason}
                  </Cell>
                ) : (
                  results.map((each) => (
                    <Cell key={each}>
                      {row < worked ? (told.results[each]?.[row]?.[0] ?? NONE) : TO_COME}
                    </Cell>
                  ))
                )}
                <Cell className="font-normal">
                  {!stands && !reason && row < worked && (
                    <Button
                      look="link"
                      aria-label={t("Open {title} {value} as a case", { title, value: shown })}
                      onClick={() => onTake({ [path]: value }, `${title} ${shown}`)}
                    >
                      {t("open")}
                    </Button>
                  )}
                </Cell>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </>
  );
}
