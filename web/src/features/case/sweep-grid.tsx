import { capital } from "../../hooks/words";
import { Button } from "../../ui/button";
import { NONE, TO_COME, type SweepProps } from "./sweep-list";
import { t } from "../../texts";

/** Two figures varied: one result as a grid, darker where it is more. */
export function SweepGrid({ data, worked, onTake }: SweepProps) {
  const { swept, told, varied } = data;
  const [first = ""] = Object.keys(swept.results);
  const [down = "", across = ""] = told.titles;
  const [rows = [], columns = []] = told.values;
  const numbers = (swept.results[first] ?? [])
    .flat()
    .flatMap((text) => (text === null ? [] : [Number(text)]));
  const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
  /** How dark a cell is, from 0 to 1; only for the eye. */
  const part = (text: string | null | undefined) =>
    text ? (Number(text) - low) / (high - low || 1) : 0;
  const take = (row: number, column: number) =>
    onTake(
      {
        [varied[0]?.path ?? ""]: swept.values[0]?.[row] ?? "",
        [varied[1]?.path ?? ""]: swept.values[1]?.[column] ?? "",
      },
      `${down} ${rows[row] ?? ""}, ${across} ${columns[column] ?? ""}`,
    );
  return (
    <div className="max-h-[70vh] overflow-auto">
      <table aria-label={t("What moves it")} className="text-sm">
        <caption className="text-left text-soft">
          {t("{capital}, by {down} (down) and {across} (across); darker is more", {
            capital: capital(told.heads[first] ?? ""),
            down,
            across,
          })}
        </caption>
        <thead>
          <tr>
            <td />
            {columns.map((shown, column) => (
              <th
                key={column}
                scope="col"
                className="px-1.5 py-1 text-right font-semibold whitespace-nowrap"
              >
                {shown}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((shown, row) => (
            <tr key={row}>
              <th scope="row" className="pr-2 text-right font-semibold whitespace-nowrap">
                {shown}
              </th>
              {columns.map((_, column) => {
                const text = told.results[first]?.[row]?.[column];
                const place = row * columns.length + column;
                const stands = told.stands[0] === row && told.stands[1] === column;
                const dark = Math.round(4 + 30 * part(swept.results[first]?.[row]?.[column]));
                return (
                  <td
                    key={column}
                    className={`p-0 text-right ${stands ? "outline-3 -outline-offset-2 outline-choice" : ""}`}
                    style={{
                      background: `color-mix(in srgb, var(--principal) ${dark}%, transparent)`,
                    }}
                  >
                    <Button
                      look="bare"
                      className="w-full px-1.5 py-0.5 text-right whitespace-nowrap hover:underline"
                      title={
                        swept.reasons[String(place)] ??
                        (stands ? t("as it stands") : t("Open as a case"))
                      }
                      disabled={stands || !text}
                      onClick={() => take(row, column)}
                    >
                      {text ?? (place < worked ? NONE : TO_COME)}
                    </Button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
