import type { Answer } from "../../api/types";
import { Figures, Formula } from "../../ui/formula";
import { Sheet } from "../../ui/sheet";
import { Cell, Heads, Table } from "../../ui/table";
import { rich, t } from "../../texts";

interface Props {
  answer: Answer;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** How the answer came about, step by step, and every check made of it. */
export function Working({ answer, open, onOpen }: Props) {
  return (
    <Sheet
      title={t("Working")}
      about={t(
        "P amount lent, A payment, B balance left, n payments, i rate for one period, p quoted rate, m compoundings and f payments a year, u = 1 + i; R the part a payment repays, I its interest; t the years a quote is charged for, T those of a flat one.",
      )}
      open={open}
      onOpen={onOpen}
    >
      <ol className="mt-4 space-y-4">
        {answer.working.map((step, number) => (
          <li key={step.title} className="border-l-2 border-rule pl-4">
            <h3 className="font-semibold">
              {number + 1}. {step.title}
            </h3>
            <p className="overflow-x-auto py-1 text-lg text-soft">
              <Formula text={step.formula} />
            </p>
            <p className="break-words">
              <Figures text={step.numbers} /> <span aria-hidden>→</span> <b>{step.result}</b>
            </p>
          </li>
        ))}
      </ol>
      {answer.proof && (
        <>
          <h3 className="mt-6 font-serif text-xl font-semibold">{t("Proof")}</h3>
          <p className="mt-1 break-words">
            {rich("Unrounded, the answer is {exact}.", { exact: <b>{answer.exact}</b> })}
          </p>
          <Table className="mt-2 text-[0.95rem]">
            <Heads
              heads={[
                t("Checked"),
                t("is"),
                t("should be"),
                <span key="holds" className="sr-only">
                  {t("holds")}
                </span>,
              ]}
            />
            <tbody>
              {answer.proof.checks.map((check) => (
                <tr key={check.what} className="border-b border-rule align-top">
                  <td className="py-1 pr-3">{check.what}</td>
                  <Cell>{check.found}</Cell>
                  <Cell>{check.expected}</Cell>
                  <Cell className={check.holds ? "text-good" : "text-wrong"}>
                    {check.holds ? "✓" : "✗"}
                    <span className="sr-only">{check.holds ? t("holds") : t("does not hold")}</span>
                  </Cell>
                </tr>
              ))}
            </tbody>
          </Table>
        </>
      )}
      <p className="mt-4 text-sm text-soft">{answer.engine}</p>
    </Sheet>
  );
}
