import type { Answer, Told } from "../../api/types";
import { within } from "../../hooks/words";
import { Asked, Remark } from "../../ui/answer";
import { Button } from "../../ui/button";
import { Hint } from "../../ui/hint";
import { CopyAnswer } from "./copy-answer";
import { Results } from "./results";
import { InUnit } from "../../ui/in-unit";
import { t } from "../../texts";

interface Props {
  answer: Answer;
  told: Told;
}

/** The figure found, what comes of the loan with it, and its proof. */
export function Solved({
  answer,
  told,
  stale,
  isBeside,
  onWorking,
}: Props & {
  stale: boolean;
  /** Something else leads. */
  isBeside: boolean;
  onWorking: () => void;
}) {
  const { proof } = answer;
  return (
    <>
      {isBeside ? (
        <p>{t("With it {asks}", { asks: within(answer.asks) })}</p>
      ) : (
        <Asked>{answer.asks}</Asked>
      )}
      <div className="flex flex-wrap items-baseline gap-x-3">
        <InUnit unit={answer.unit} said={<span className="text-xl text-soft">{answer.unit}</span>}>
          <output
            aria-live="off"
            className={`font-bold tracking-tight break-all ${isBeside ? "text-2xl" : "text-[3.4rem] leading-[1.1]"} ${stale ? "text-soft" : ""}`}
          >
            {told.value}
          </output>
        </InUnit>
        {!stale && <CopyAnswer answer={answer} told={told} />}
      </div>
      <p className="mt-1 text-[0.95rem] text-soft">
        {told.exact && t("before rounding {exact}", { exact: told.exact })}
        {answer.paid_as && ` · ${answer.paid_as}`}
      </p>
      <Results facts={told.facts} />
      {answer.notes.map((note) => (
        <Remark key={note}>{note}</Remark>
      ))}
      {proof && (
        <p className={`mt-4 text-[0.95rem] ${proof.holds ? "text-good" : "text-wrong"}`}>
          <span aria-hidden className="font-bold">
            {proof.holds ? "✓" : "✗"}
          </span>{" "}
          {proof.says}{" "}
          <Hint of={["proof", "working"]} className="ml-1">
            <Button look="bare" className="text-ink underline" onClick={onWorking}>
              {t("Working")}
            </Button>
          </Hint>
        </p>
      )}
    </>
  );
}

/** Several rates fit and the flows do not tell which is meant: all of them, alike. */
export function Several({ answer, told }: Props) {
  return (
    <>
      <Asked>{t("{length} rates fit", { length: told.solutions.length })}</Asked>
      {told.solutions.map((each) => (
        <p key={each} className="flex flex-wrap items-baseline gap-x-3">
          <InUnit
            unit={answer.unit}
            said={<span className="text-xl text-soft">{answer.unit}</span>}
          >
            <output
              aria-live="off"
              className="text-[2.4rem] leading-[1.15] font-bold tracking-tight"
            >
              {each}
            </output>
          </InUnit>
        </p>
      ))}
      {answer.notes.map((note) => (
        <Remark key={note}>{note}</Remark>
      ))}
    </>
  );
}
