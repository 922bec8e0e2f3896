import { useState } from "react";
import type { Matched, Reconciliation } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Select } from "../../ui/select";
import { Table } from "../../ui/table";
import { t } from "../../texts";

interface Props {
  found: Reconciliation;
  onMatched: (matched: Matched) => void;
}

/** Which column of somebody's schedule is which of ours, where its names do not say so. */
export function WhichColumn({ found, onMatched }: Props) {
  const { columns } = useDesk().words;
  const [matched, setMatched] = useState<Matched>(found.matched);
  const called = found.names.map(
    (name, place) => name || t("column {number}", { number: place + 1 }),
  );
  const options = [
    { value: "", label: t("is not there") },
    ...called.map((label, place) => ({ value: String(place), label })),
  ];
  return (
    <form
      className="mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        onMatched(matched);
      }}
    >
      <p className="font-semibold">{t("Which column is which?")}</p>
      <Table className="mt-1 text-sm">
        <thead>
          <tr>
            {called.map((name, place) => (
              <th key={place} className="border-b border-rule px-2 text-left">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {found.sample.map((row, line) => (
            <tr key={line} className="text-soft">
              {row.map((cell, place) => (
                <td key={place} className="px-2 whitespace-nowrap">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
      <div className="mt-2 grid gap-1.5">
        {(Object.keys(found.matched) as (keyof Matched)[]).map((column) => (
          <Select
            key={column}
            label={columns[column]}
            labelClass="flex items-center justify-between gap-4"
            value={String(matched[column] ?? "")}
            options={options}
            onChoose={(place) =>
              setMatched({ ...matched, [column]: place === "" ? null : Number(place) })
            }
          />
        ))}
      </div>
      <Button look="main" type="submit" className="mt-3">
        {t("Compare these columns")}
      </Button>
    </form>
  );
}
