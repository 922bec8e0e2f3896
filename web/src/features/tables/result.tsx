import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { startFromRow, type Looking, type Only } from "../../api/tables";
import type { TableOpened } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useExportKey } from "../../hooks/use-export-key";
import { useOpened } from "../../hooks/use-opened";
import { useSettled } from "../../hooks/use-settled";
import { Button } from "../../ui/button";
import { Check, Field } from "../../ui/field";
import { Menu } from "../../ui/menu";
import { inMarks } from "../../ui/numbers";
import { OneInSight } from "../../ui/one-in-sight";
import { Taking, useTaking } from "../../ui/taking";
import { Wrong } from "../../ui/wrong";
import { Rows, type Sort } from "./rows";
import { useShownColumns, withReasons } from "./shown-columns";
import { Summary } from "./summary";
import { t } from "../../texts";

const BLOCK = 100;
const AS_THEY_COME: Looking = {
  sort: "row",
  descending: false,
  only: "all",
  text: "",
  size: BLOCK,
};

/** A row as a case of its own. */
function useOpenRow(table: TableOpened) {
  const onSuccess = useOpened();
  return useMutation({ mutationFn: (row: number) => startFromRow(table.id, row), onSuccess });
}

/** The rows that were solved first, while the others are being worked. */
export function FirstRows({ table }: { table: TableOpened }) {
  const [columns] = useShownColumns(table);
  const open = useOpenRow(table);
  return (
    <section aria-label={t("First rows")} className="mt-6">
      <h2 className="font-semibold">{t("The first rows")}</h2>
      <p className="text-soft">
        {t("All can be sorted, searched and exported once they are done.")}
      </p>
      <Wrong error={open.error} />
      <Rows
        table={table}
        looking={AS_THEY_COME}
        shown={columns}
        onOpen={(row) => open.mutate(row)}
      />
    </section>
  );
}

/** The rows with their results: sorted, filtered, columns chosen. */
export function Result({ table }: { table: TableOpened }) {
  const [columns, choose] = useShownColumns(table);
  const [sort, setSort] = useState<Sort>({ by: "row", descending: false });
  const [only, setOnly] = useState<Only>("all");
  const [text, setText] = useState("");
  const [choosing, setChoosing] = useState(false);
  const looking: Looking = {
    sort: sort.by,
    descending: sort.descending,
    only,
    text: useSettled(text.trim(), 200),
    size: BLOCK,
  };
  const open = useOpenRow(table);
  const taking = useTaking();
  useExportKey();
  const file = (kind: string) => `/api/v1/tables/${table.id}/file?kind=${kind}`;
  return (
    <section aria-label={t("Result")}>
      {table.told && <Summary told={table.told} />}
      <div className="mt-4 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Which summary={table.summary} only={only} onOnly={setOnly} />
        <Field
          type="search"
          name={t("Find in the table")}
          placeholder={t("Find in the table")}
          value={text}
          className="w-60"
          onType={setText}
        />
        <span className="ml-auto flex gap-4 text-sm text-soft">
          <Button look="quiet" aria-expanded={choosing} onClick={() => setChoosing((now) => !now)}>
            {t("Columns")}
          </Button>
          <Menu
            name={t("Export")}
            actions={[
              { label: t("Table (CSV)"), href: file("csv") },
              {
                label: t("Workbook (XLSX)"),
                run: () => taking.take(t("the workbook"), file("xlsx")),
              },
              { label: t("JSON Lines"), href: file("jsonl") },
              { label: t("Parquet"), run: () => taking.take(t("the file"), file("parquet")) },
              { label: t("Arrow"), run: () => taking.take(t("the file"), file("arrow")) },
            ]}
          >
            {t("Export")} <span aria-hidden>▾</span>
          </Menu>
        </span>
      </div>
      <Taking taking={taking} />
      {choosing && (
        <fieldset className="mt-2 flex flex-wrap gap-x-5 rounded border border-rule bg-sheet p-3 text-[0.95rem]">
          <legend className="text-sm text-soft">{t("Columns shown")}</legend>
          {table.titles.map(({ name, title }) => (
            <Check
              key={name}
              label={title}
              checked={columns.includes(name)}
              onChoose={(on) =>
                choose(on ? [...columns, name] : columns.filter((each) => each !== name))
              }
            />
          ))}
        </fieldset>
      )}
      <Wrong error={open.error} />
      <Rows
        table={table}
        looking={looking}
        shown={only === "problems" ? withReasons(columns) : columns}
        onSort={setSort}
        onOpen={(row) => open.mutate(row)}
      />
    </section>
  );
}

/** Which rows to see, and how many there are of them. */
function Which({
  summary,
  only,
  onOnly,
}: Pick<TableOpened, "summary"> & { only: Only; onOnly: (only: Only) => void }) {
  const { marks } = useDesk();
  if (!summary) return null;
  const filters: [Only, string, number][] = [
    ["all", t("all rows"), summary.rows],
    ["problems", t("without an answer"), summary.problems],
    ["unfit", t("do not fit"), summary.unfit],
    ["outliers", t("stand out"), summary.outliers],
  ];
  return (
    <OneInSight
      name={t("Which rows")}
      chosen={only}
      options={filters.map(([name, label, rows]) => [
        name,
        `${label} (${inMarks(String(rows), marks)})`,
      ])}
      onChoose={onOnly}
      className=""
    />
  );
}
