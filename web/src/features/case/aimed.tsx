import { useSweep } from "../../api/sensitivity";
import type { AimTold, Answer, Statement } from "../../api/types";
import { capital } from "../../hooks/words";
import { Asked } from "../../ui/answer";
import { Button } from "../../ui/button";
import type { EntryName } from "./entries";
import { Trend } from "./trend";
import { InUnit } from "../../ui/in-unit";
import { rich, t } from "../../texts";

interface Props {
  answer: Answer;
  aim: AimTold | null;
  statement: Statement;
  onTake: (name: EntryName, text: string) => void;
}

/** The figure that reaches an aim, and taking it into the loan. */
export function Aimed({ answer, aim, statement, onTake }: Props) {
  if (!aim || !answer.aim) return null;
  const { take } = aim;
  return (
    <div className="mb-4">
      {aim.value !== null && (
        <>
          <Asked>{t("The {title} that reaches the aim is", { title: aim.title })}</Asked>
          <p className="flex flex-wrap items-baseline gap-x-3">
            <InUnit unit={aim.unit} said={<span className="text-xl text-soft">{aim.unit}</span>}>
              <output
                aria-live="off"
                aria-label={t("Figure that reaches the aim")}
                className="text-[3.4rem] leading-[1.1] font-bold tracking-tight break-all"
              >
                {aim.value}
              </output>
            </InUnit>
          </p>
          <p className="text-[0.95rem] text-soft">
            {rich("before rounding {exact}", { exact: aim.exact })}
          </p>
          <p className="mt-1 text-[0.95rem]">{answer.aim.says}</p>
          {aim.solutions.length > 1 && (
            <p className="mt-1 text-[0.95rem]">
              {t("All of them: {solutions}", { solutions: aim.solutions.join(" · ") })}
            </p>
          )}
        </>
      )}
      {take && (
        <Button
          look="link"
          className="mt-1 text-[0.95rem]"
          onClick={() => onTake(aim.entry, take.typed)}
        >
          {t("Take {text} into the loan", { text: take.text })}
        </Button>
      )}
      <AimCurve statement={statement} aim={aim} told={answer.aim} />
    </div>
  );
}

/** The result against the figure that moves, with the aim across it. */
function AimCurve({
  statement,
  aim,
  told,
}: {
  statement: Statement;
  aim: AimTold;
  told: NonNullable<Answer["aim"]>;
}) {
  const found = useSweep({
    statement,
    varied: [{ path: told.by, typed: "" }],
    results: [told.figure],
  });
  if (!found.data) return null;
  return (
    <figure className="mt-3 rounded-lg border border-rule bg-sheet p-2">
      <figcaption className="px-1 text-sm text-soft">
        {t("{figure} against the {title}", { figure: capital(aim.figure), title: aim.title })}
      </figcaption>
      <Trend data={found.data} aim={{ value: told.target, told: aim.target }} />
    </figure>
  );
}
