import { Dialog } from "radix-ui";
import type { Answer } from "../api/client";

interface Props {
  answer: Answer;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** How the answer came about, step by step, and every check made of it. */
export function Working({ answer, open, onOpen }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpen} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          onInteractOutside={(event) => event.preventDefault()}
          className="fixed inset-y-0 right-0 z-40 flex w-[min(36rem,100vw)] flex-col overflow-auto border-l border-rule bg-sheet p-6 shadow-2xl"
        >
          <div className="flex items-start justify-between">
            <Dialog.Title className="font-serif text-2xl font-semibold">Working</Dialog.Title>
            <Dialog.Close className="rounded border border-rule-strong px-3 py-1">
              Close
            </Dialog.Close>
          </div>
          <Dialog.Description className="text-soft">
            P amount lent, A payment, B balance left, n payments, i rate for one period, p quoted
            rate, m compoundings and f payments a year, u = 1 + i.
          </Dialog.Description>
          <ol className="mt-4 space-y-4">
            {answer.working.map((step, number) => (
              <li key={step.title} className="border-l-2 border-rule pl-4">
                <h3 className="font-semibold">
                  {number + 1}. {step.title}
                </h3>
                <p className="font-serif text-soft italic">{step.formula}</p>
                <p className="break-words">
                  {step.numbers} <span aria-hidden>→</span> <b>{step.result}</b>
                </p>
              </li>
            ))}
          </ol>
          {answer.proof && (
            <>
              <h3 className="mt-6 font-serif text-xl font-semibold">Proof</h3>
              <p className="mt-1 break-words">
                Unrounded, the answer is <b>{answer.exact}</b>.
              </p>
              <table className="mt-2 w-full text-[0.95rem]">
                <thead>
                  <tr className="border-b border-rule text-left text-soft">
                    <th className="py-1 pr-3 font-normal">Checked</th>
                    <th className="py-1 pr-3 text-right font-normal">is</th>
                    <th className="py-1 pr-3 text-right font-normal">should be</th>
                    <th className="py-1 font-normal">
                      <span className="sr-only">holds</span>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {answer.proof.checks.map((check) => (
                    <tr key={check.what} className="border-b border-rule align-top">
                      <td className="py-1 pr-3">{check.what}</td>
                      <td className="py-1 pr-3 text-right">{check.found}</td>
                      <td className="py-1 pr-3 text-right">{check.expected}</td>
                      <td className={check.holds ? "py-1 text-good" : "py-1 text-wrong"}>
                        {check.holds ? "✓" : "✗"}
                        <span className="sr-only">{check.holds ? "holds" : "does not hold"}</span>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </>
          )}
          <p className="mt-4 text-sm text-soft">{answer.engine}</p>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
