import { useState } from "react";
import { flowsFile, flowsKey, useTableFlows } from "../../api/tables";
import type { PortfolioTold, PortfolioTyped, TableOpened } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useExportKey } from "../../hooks/use-export-key";
import { useSettled } from "../../hooks/use-settled";
import { useStopping } from "../../hooks/use-stopping";
import { Field } from "../../ui/field";
import { Menu } from "../../ui/menu";
import { OneInSight } from "../../ui/one-in-sight";
import { Select } from "../../ui/select";
import { StillWorking } from "../../ui/still-working";
import { ToldTable } from "../../ui/table";
import { Taking, useTaking } from "../../ui/taking";
import { Wrong } from "../../ui/wrong";
import { FlowsPicture } from "./flows-picture";
import { t } from "../../texts";

const FIRST: PortfolioTyped = {
  ...{ on: "", early: "", rate: "", compounded: 1, by: "quarter", currency: "" },
  scenario: "agreed",
};

/** What the loans of a solved table move: by period, as agreed and as it may go. */
export function Flows({ table }: { table: TableOpened }) {
  const [asked, setAsked] = useState(FIRST);
  const put = (change: Partial<PortfolioTyped>) => setAsked((now) => ({ ...now, ...change }));
  const settled = useSettled(asked, 250);
  const found = useTableFlows(table, settled);
  const stopping = useStopping(flowsKey(table), settled);
  const told = found.error ? undefined : found.data?.told;
  return (
    <section aria-label={t("Flows")} className="mt-4">
      <Asked table={table} asked={asked} onAsk={put} />
      <div className="mt-3">
        <StillWorking busy={found.isFetching} stopping={stopping} />
        <Wrong error={found.error} />
      </div>
      {told && (
        <div aria-busy={found.isFetching}>
          <Told told={told} onAsk={put} />
        </div>
      )}
    </section>
  );
}

interface AskedProps {
  table: TableOpened;
  asked: PortfolioTyped;
  onAsk: (change: Partial<PortfolioTyped>) => void;
}

/** From which day on, what is repaid early, at what rate they are discounted; the way out. */
function Asked({ table, asked, onAsk }: AskedProps) {
  const { table: words, limits } = useDesk().words;
  const taking = useTaking();
  useExportKey();
  const take = (what: string, kind: string) => taking.take(what, flowsFile(table, asked, kind));
  const typed = (name: "on" | "early" | "rate", wide: string) => ({
    value: asked[name],
    maxLength: limits.stretch,
    className: `${wide} text-right`,
    onType: (text: string) => onAsk({ [name]: text }),
  });
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Select
          name={t("Added up")}
          value={asked.by}
          options={words.flows_by}
          onChoose={(by) => onAsk({ by: by as PortfolioTyped["by"] })}
        />
        <Field
          label={t("looked at from")}
          placeholder={t("each loan’s start")}
          {...typed("on", "w-40")}
        />
        <Field
          label={t("repaid early")}
          placeholder={t("none")}
          after={t("% a year")}
          {...typed("early", "w-20")}
        />
        <Field label={t("discounted at")} placeholder="5.00" after="%" {...typed("rate", "w-20")} />
        <Select
          name={t("How that rate is quoted")}
          value={String(asked.compounded)}
          options={words.discounted}
          onChoose={(often) => onAsk({ compounded: Number(often) as 1 })}
        />
        <span className="ml-auto text-sm text-soft">
          <Menu
            name={t("Export")}
            actions={[
              { label: t("Table (CSV)"), run: () => take(t("the table"), "csv") },
              { label: t("Workbook (XLSX)"), run: () => take(t("the workbook"), "xlsx") },
              { label: t("JSON Lines"), run: () => take(t("the file"), "jsonl") },
              { label: t("Parquet"), run: () => take(t("the file"), "parquet") },
              { label: t("Arrow"), run: () => take(t("the file"), "arrow") },
            ]}
          >
            {t("Export")} <span aria-hidden>▾</span>
          </Menu>
        </span>
      </div>
      <Taking taking={taking} />
    </>
  );
}

/** What came of it: how long it lasts, every way it may go, one of them by period. */
function Told({ told, onAsk }: { told: PortfolioTold; onAsk: AskedProps["onAsk"] }) {
  return (
    <>
      <p role="status" className="max-w-4xl font-serif text-xl font-semibold">
        {told.says}
      </p>
      {told.notes.map((note) => (
        <p key={note} className="mt-1 text-soft">
          {note}
        </p>
      ))}
      {told.currencies.length > 1 && (
        <OneInSight
          name={t("Currency")}
          chosen={told.currency}
          options={told.currencies.map((code) => [code, code])}
          onChoose={(currency) => onAsk({ currency })}
        />
      )}
      <ToldTable label={t("Every way it may go")} told={told.ways} className="mt-3 max-w-5xl" />
      {told.scenarios.length > 1 && (
        <OneInSight
          name={t("Drawn and listed below")}
          chosen={told.scenario}
          options={told.scenarios.map(({ scenario, title }) => [scenario, title])}
          onChoose={(scenario) => onAsk({ scenario: scenario })}
        />
      )}
      <FlowsPicture drawn={told.drawn} label={told.says} />
      <ToldTable label={t("Flows by period")} told={told.flows} className="mt-3 max-w-4xl" />
    </>
  );
}
