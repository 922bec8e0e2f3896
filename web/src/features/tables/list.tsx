import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import {
  startTable,
  startTableFromText,
  tableKey,
  TABLES,
  useDeleteTable,
  useTables,
} from "../../api/tables";
import type { TableOpened } from "../../api/types";
import { focusOn } from "../../hooks/focus";
import { sends } from "../../hooks/sends";
import { useDesk } from "../../hooks/use-desk";
import { useKeys } from "../../hooks/use-keys";
import { Button } from "../../ui/button";
import { Area } from "../../ui/field";
import { Listed, Listing } from "../../ui/listing";
import { useDays } from "../../ui/moment";
import { countedRows, inMarks } from "../../ui/numbers";
import { Page, PageTitle } from "../../ui/page";
import { Upload, useDrop } from "../../ui/upload";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

function useOpened() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  return (opened: TableOpened) => {
    queries.setQueryData(tableKey(opened.id), opened);
    void queries.invalidateQueries({ queryKey: TABLES });
    void navigate(`/tables/${opened.id}`);
  };
}

const KEYS = [{ key: "p", run: () => focusOn("[data-paste]") }];

/** Every table of loans, and the ways to open one. */
export function TablesPage() {
  const { words, marks } = useDesk();
  const { moment } = useDays();
  const onSuccess = useOpened();
  const [text, setText] = useState("");
  const list = useTables();
  const open = useMutation({ mutationFn: startTable, onSuccess });
  const paste = useMutation({ mutationFn: () => startTableFromText(text), onSuccess });
  const away = useDeleteTable();
  const over = useDrop(open.mutate);
  useKeys(KEYS);
  const { limits } = words;
  return (
    <Page title={t("Tables")}>
      <div className="flex flex-wrap items-center gap-3">
        <PageTitle>{t("Tables of loans")}</PageTitle>
        <Upload
          look="main"
          name={t("Table to open")}
          accept={words.table.kinds.join()}
          disabled={open.isPending}
          onFile={open.mutate}
        >
          {open.isPending ? t("Reading …") : t("Open a file")}
        </Upload>
      </div>
      <p className="mt-2 max-w-prose text-soft">
        {t(
          "A loan tape, a price sheet, a column of capacities: each row is solved as a case would be. An empty cell or a ? is the unknown of its row.",
        )}
      </p>
      <Wrong error={open.error ?? paste.error ?? away.error ?? list.error} className="mt-3" />
      <div
        className={`mt-4 rounded-lg border border-dashed p-4 ${over ? "border-choice bg-sheet" : "border-rule-strong"}`}
      >
        <Area
          label={t(
            "Drop a CSV, XLSX, Parquet or JSON Lines file here (at most {fileMegabytes} MB, {fileRows} rows), or paste a table:",
            {
              fileMegabytes: limits.file_megabytes,
              fileRows: inMarks(String(limits.file_rows), marks),
            },
          )}
          labelClass="text-soft"
          name={t("Table to paste")}
          rows={3}
          value={text}
          maxLength={limits.pasted}
          placeholder={t("name;amount;rate;payments;payment\nKiln;17,840;6.9;48;?")}
          className="mt-2 w-full font-mono text-sm text-ink"
          onType={setText}
          onKeyDown={sends(() => {
            if (text.trim()) paste.mutate();
          })}
          data-paste
        />
        <Button
          className="mt-1"
          disabled={!text.trim() || paste.isPending}
          onClick={() => paste.mutate()}
        >
          {t("Take this table")}
        </Button>
      </div>
      {list.data?.length === 0 && <p className="mt-6 font-serif text-xl">{t("No tables yet.")}</p>}
      {list.data && list.data.length > 0 && (
        <Listing label={t("Tables")}>
          {list.data.map((table) => (
            <Listed key={table.id}>
              <Link className="font-serif text-lg font-semibold" to={`/tables/${table.id}`}>
                {table.name}
              </Link>
              <span className="text-soft">
                {countedRows(table.rows, marks)}, {table.says}
              </span>
              <span className="ml-auto text-sm text-soft">{moment(table.created_at)}</span>
              <Button look="link" className="text-sm" onClick={() => away.mutate(table.id)}>
                {t("Delete")}
                <span className="sr-only"> {table.name}</span>
              </Button>
            </Listed>
          ))}
        </Listing>
      )}
    </Page>
  );
}
