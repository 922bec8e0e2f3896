import type { RateAnswer } from "../../api/types";
import { Asked, NoAnswer } from "../../ui/answer";
import { Figures, Formula } from "../../ui/formula";
import { rich } from "../../texts";

/** The figure of a quote that was missing, how it came about, or why there is none. */
export function Found({ answer }: { answer: RateAnswer }) {
  if (answer.reason) return <NoAnswer reason={answer.reason} />;
  return (
    <>
      <Asked>{answer.about}</Asked>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <output
          aria-live="off"
          className="text-[3.2rem] leading-[1.1] font-bold tracking-tight break-all"
        >
          {answer.value}
        </output>
        <span className="text-xl text-soft">{answer.unit}</span>
      </p>
      <p className="mt-1 text-[0.95rem] break-all text-soft">
        {rich("to 30 digits {exact}", { exact: answer.exact })}
      </p>
      {answer.note && <p className="mt-2">{answer.note}</p>}
      {(answer.working ?? []).map((step) => (
        <p key={step.formula} className="mt-2 text-[0.95rem]">
          <span className="text-lg text-soft">
            <Formula text={step.formula} />
          </span>
          <br />
          <Figures text={step.numbers} /> <span aria-hidden>→</span> <b>{step.result}</b>
        </p>
      ))}
    </>
  );
}
