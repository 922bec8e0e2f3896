import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import type { SideBySide } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useExportKey } from "../../hooks/use-export-key";
import { Button } from "../../ui/button";
import { Menu } from "../../ui/menu";
import { Page, PageTitle } from "../../ui/page";
import { Taking, useTaking } from "../../ui/taking";
import { Wrong } from "../../ui/wrong";
import { AddCase } from "./add-case";
import { Compared } from "./compared";
import { Overlay } from "./overlay";
import { t } from "../../texts";

interface Props {
  title: string;
  table: UseQueryResult<SideBySide>;
  failed?: string | undefined;
  /** The address of the file, to which its kind is added. */
  file: string;
  mayEdit: boolean;
  /** What is said while only one loan stands there. */
  alone: string;
  /** The cases that stand there already, and how many loans do. */
  taken: string[];
  count: number;
  onBase: (place: number) => void;
  onTakeOff: (place: number) => void;
  onAdd: (id: string) => void;
  tools?: ReactNode;
  /** What stands beside each other, in words. */
  children: ReactNode;
}

/** Loans side by side: their lines over each other, their figures column by column. */
export function Beside(props: Props) {
  const { title, table, failed, file, mayEdit, alone, taken, count, onBase, onTakeOff } = props;
  const { limits } = useDesk().words;
  const taking = useTaking();
  useExportKey();
  const take = (what: string, kind: string) => () =>
    taking.take(what, `${file}${file.includes("?") ? "&" : "?"}kind=${kind}`);
  const beside = table.data;
  const most = limits.pins + 1;
  return (
    <Page title={title}>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <PageTitle>{t("Side by side")}</PageTitle>
        <span className="flex items-baseline gap-4 text-sm text-soft print:hidden">
          {props.tools}
          <Button look="quiet" onClick={() => print()}>
            {t("Print")}
          </Button>
          <Menu
            name={t("Export")}
            actions={[
              { label: t("Pages to print (PDF)"), run: take(t("the pages"), "pdf") },
              { label: t("Workbook (XLSX)"), run: take(t("the workbook"), "xlsx") },
              { label: t("Table (CSV)"), run: take(t("the table"), "csv") },
            ]}
          >
            {t("Export")} <span aria-hidden>▾</span>
          </Menu>
        </span>
      </div>
      <p className="text-soft">{props.children}</p>
      <Taking taking={taking} />
      <Wrong className="mt-3">{table.error?.message ?? failed}</Wrong>
      {beside && (
        <>
          {beside.names.length === 1 && (
            <p className="mt-4 max-w-prose font-serif text-xl">{alone}</p>
          )}
          <Overlay beside={beside} />
          <Compared
            beside={beside}
            busy={table.isFetching}
            mayEdit={mayEdit}
            onBase={onBase}
            onTakeOff={onTakeOff}
          />
        </>
      )}
      {mayEdit && (
        <div className="mt-4 print:hidden">
          {count < most ? (
            <AddCase taken={taken} onAdd={props.onAdd} />
          ) : (
            <p className="text-soft">
              {t("{most} stand side by side: take one off to pin another.", { most })}
            </p>
          )}
        </div>
      )}
    </Page>
  );
}
