import type { ReactNode } from "react";
import type { RateAnswer } from "../../api/types";
import { Cell, Heads, RowHead, Table } from "../../ui/table";
import { t } from "../../texts";

/** The same rate in every style, those of a kind together. */
export function Footings({ answer, children }: { answer: RateAnswer; children: ReactNode }) {
  const footings = answer.footings ?? [];
  const groups = [...new Set(footings.map((footing) => footing.group))];
  return (
    <div className="mt-6 rounded-lg border border-rule bg-sheet px-4 pb-2">
      <p className="pt-3 font-serif text-lg">{children}</p>
      <Table className="mt-1">
        <Heads
          left={2}
          heads={[t("Style"), t("Quoted"), t("As printed"), t("To 30 digits, percent")]}
        />
        {groups.map((group) => (
          <tbody key={group}>
            {footings
              .filter((footing) => footing.group === group)
              .map((row, place, rows) => (
                <tr key={row.name} className="border-b border-rule">
                  {place === 0 && (
                    <RowHead
                      scope="rowgroup"
                      rowSpan={rows.length}
                      className="align-top font-semibold"
                    >
                      {group}
                    </RowHead>
                  )}
                  <td className="py-1 pr-4 text-soft">{row.name}</td>
                  <Cell className="font-semibold whitespace-nowrap">{row.printed}</Cell>
                  <Cell className="text-sm text-soft">{row.exact}</Cell>
                </tr>
              ))}
          </tbody>
        ))}
      </Table>
    </div>
  );
}
