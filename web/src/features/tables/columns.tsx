import type { ReactNode } from "react";
import type { TableOpened } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Select } from "../../ui/select";
import { Table } from "../../ui/table";
import { t } from "../../texts";

interface Props {
  table: TableOpened;
  columns: TableOpened["columns"];
  /** Of each row of the sample, the places of the cells in which its unknown stands. */
  asked: readonly (readonly number[])[];
  onColumns: (columns: TableOpened["columns"]) => void;
  /** What stands beside the heading. */
  beside: ReactNode;
}

/** The columns of the file with its first rows; each can be matched to a figure. */
export function Columns({ table, columns, asked, onColumns, beside }: Props) {
  const { words } = useDesk();
  const options = [
    { value: "", label: t("kept as it is") },
    ...Object.entries(words.table.fields).map(([value, label]) => ({ value, label })),
  ];
  const fieldOf = (place: number) =>
    Object.entries<number>(columns).find(([, at]) => at === place)?.[0] ?? "";
  const match = (place: number, field: string) => {
    const others: TableOpened["columns"] = Object.fromEntries(
      Object.entries(columns).filter(([name, at]) => at !== place && name !== field),
    );
    onColumns(field ? { ...others, [field]: place } : others);
  };
  return (
    <>
      <div className="mt-5 flex flex-wrap items-baseline justify-between gap-x-5">
        <h2 className="font-serif text-xl font-semibold">{t("Which column is what")}</h2>
        {beside}
      </div>
      <div className="mt-2 rounded-lg border border-rule bg-sheet">
        <Table aria-label={t("Columns of the file")} className="text-[0.95rem]">
          <thead>
            <tr>
              {table.names.map((name, place) => (
                <th key={place} scope="col" className="px-3 pt-2 text-left whitespace-nowrap">
                  {name}
                </th>
              ))}
            </tr>
            <tr className="border-b border-rule">
              {table.names.map((name, place) => (
                <td key={place} className="px-3 pb-2">
                  <Select
                    name={`${name} is`}
                    value={fieldOf(place)}
                    options={options}
                    className={fieldOf(place) ? "font-semibold" : "text-soft"}
                    onChoose={(field) => match(place, field)}
                  />
                </td>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.sample.map((row, line) => (
              <tr key={line} className="border-b border-rule last:border-0">
                {row.map((cell, place) => (
                  <td key={place} className="max-w-60 truncate px-3 py-1">
                    {asked[line]?.includes(place) ? (
                      <span className="rounded-full bg-unknown px-2 font-semibold text-on-unknown">
                        ?
                      </span>
                    ) : (
                      cell
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </>
  );
}
