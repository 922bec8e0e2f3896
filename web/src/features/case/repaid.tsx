import type { ReactNode } from "react";
import type { Statement } from "../../api/types";
import { focusSoon } from "../../hooks/focus";
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

/** What changes with the way of repaying: payments that follow the cash flow need one, and are not
 *  typed. */
function repaidAs(repaid: Statement["repaid"], statement: Statement): Partial<Statement> {
  if (repaid !== "sculpted") return { repaid };
  const ratio = statement.payment.trim() === "?" ? "?" : "";
  const cover = statement.cover ?? { cash_flow: "", every: "year", growth: "", ratio };
  focusSoon("[data-figure='cover.cash_flow']");
  return { repaid, payment: "", cover };
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
          onChoose={(repaid) => onChange(repaidAs(repaid as Statement["repaid"], statement))}
        />
      </span>{" "}
      {rest.map((piece, at) => (at % 2 ? piece : <span key={piece}>{figure(piece)}</span>))}
    </>
  );
}
