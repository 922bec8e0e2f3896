import type { ReactNode } from "react";
import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Choice } from "../../ui/choice";
import type { EntryName } from "./entries";
import { t } from "../../texts";

interface Props {
  statement: Statement;
  /** Whether the word for payments still has to be said. */
  payments: boolean;
  figure: (name: EntryName) => ReactNode;
  onChange: (change: Partial<Statement>) => void;
}

/** What each payment is: the words before the first figure choose how the loan is repaid. */
export function Repaid({ statement, payments, figure, onChange }: Props) {
  const options = useDesk().words.choices.repaid;
  const said = options.find(({ value }) => value === statement.repaid)?.said ?? "";
  const [lead = "", ...rest] = said.split(/\{(\w+)\}/);
  return (
    <>
      <span data-list="repaid">
        <Choice
          name={t("Repaid")}
          value={statement.repaid}
          shown={payments ? `${t("payments")} ${lead.trim()}` : lead.trim()}
          options={options}
          onChoose={(repaid) => onChange({ repaid: repaid as Statement["repaid"] })}
        />
      </span>{" "}
      {rest.map((piece, at) => (at % 2 ? piece : <span key={piece}>{figure(piece)}</span>))}
    </>
  );
}
