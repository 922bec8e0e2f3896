import type { ReactNode } from "react";
import type { Answer, Statement } from "../api/client";
import { Choice } from "../ui/choice";
import { inMarks, rounded, trimmed } from "../ui/numbers";
import { useDesk } from "../ui/settings";
import { PERCENTS, RESULTS, resultName } from "./results";
import { askables, asked, pathOf, textOf, titleOf, type EntryName } from "./figures";

const DOTTED = "text-choice underline decoration-dotted underline-offset-[0.3em]";

/** The entries that may move for an aim: all but the one asked for and the aim itself. */
export function movables(statement: Statement): EntryName[] {
  const unknown = asked(statement);
  return askables(statement).filter(
    (name) => name !== unknown && pathOf(statement, name) !== statement.aim_figure,
  );
}

/** The entry that an aim moves. */
function moving(statement: Statement): EntryName | undefined {
  return askables(statement).find((name) => pathOf(statement, name) === statement.aim_by);
}

interface Props {
  statement: Statement;
  figure: (name: EntryName) => ReactNode;
  onChange: (change: Partial<Statement>) => void;
  /** Where the cursor stands on the line. */
  place: string;
}

/** Which result is to have which value, and which figure may move for that. */
export function AimLine({ statement, figure, onChange, place }: Props) {
  const first = movables(statement)[0] ?? "principal";
  if (!statement.aim_figure)
    return (
      <p className="mt-1 text-[0.95rem] text-soft">
        <button
          className={DOTTED}
          onClick={() => {
            const by = pathOf(statement, first);
            onChange({ aim_figure: "total_interest", aim_is: "", aim_by: by });
            setTimeout(() => document.querySelector<HTMLElement>("[data-figure=aim_is]")?.focus());
          }}
        >
          Aim at a result
        </button>
      </p>
    );
  const at = /^balance@/.test(statement.aim_figure)
    ? statement.aim_figure
    : `balance@${place || 12}`;
  const moves = moving(statement);
  const isPercent = PERCENTS.includes(statement.aim_figure);
  return (
    <p className="mt-2 font-serif text-[1.15rem] leading-[2.2rem]" data-aim>
      Aim: the{" "}
      <Choice
        name="Result aimed at"
        value={statement.aim_figure}
        shown={resultName(statement.aim_figure)}
        options={[...Object.keys(RESULTS), at].map((value) => ({
          value,
          label: resultName(value),
        }))}
        onChoose={(aim_figure) => onChange({ aim_figure })}
      />{" "}
      is to be {figure("aim_is")}
      {isPercent && " %"}, and the{" "}
      <Choice
        name="Figure that moves"
        value={statement.aim_by}
        shown={moves ? titleOf(moves).toLowerCase() : "figure …"}
        options={movables(statement).map((name) => ({
          value: pathOf(statement, name),
          label: titleOf(name).toLowerCase(),
        }))}
        onChoose={(aim_by) => onChange({ aim_by })}
      />{" "}
      moves for it
      {moves && textOf(statement, moves).trim() !== "" && (
        <span className="text-soft"> (what stands there is left aside)</span>
      )}
      .{" "}
      <button
        className={`${DOTTED} font-sans text-[0.95rem]`}
        // Leaving the figure sets it anew and moves what stands after it: the click comes first.
        onMouseDown={(event) => event.preventDefault()}
        onClick={() => onChange({ aim_figure: "", aim_is: "", aim_by: "" })}
      >
        Drop the aim
      </button>
    </p>
  );
}

/** The figure that reaches an aim, and taking it into the loan. */
export function Aimed({
  answer,
  statement,
  onTake,
}: {
  answer: Answer;
  statement: Statement;
  onTake: (name: EntryName, text: string) => void;
}) {
  const { marks } = useDesk();
  const { aim } = answer;
  const moves = moving(statement);
  if (!aim || !moves) return null;
  const stated = aim.value ?? aim.nearest;
  const shown = (text: string) =>
    inMarks(aim.by.endsWith("percent") ? trimmed(rounded(text, 6)) : text, marks);
  return (
    <div className="mb-4 border-l-2 border-unknown pl-4">
      {aim.value !== null && (
        <>
          <p>The {titleOf(moves).toLowerCase()} that reaches the aim is</p>
          <output
            aria-label="Figure that reaches the aim"
            className="block text-[2.4rem] leading-[1.15] font-bold tracking-tight break-all"
          >
            {shown(aim.value)}
          </output>
          <p className="text-[0.95rem] text-soft">
            before rounding {inMarks(rounded(aim.exact ?? "0", 9), marks)}
          </p>
          <p className="mt-1 text-[0.95rem]">{aim.says}</p>
          {aim.solutions.length > 1 && (
            <p className="mt-1 text-[0.95rem]">
              All of them: {aim.solutions.map((each) => shown(rounded(each, 6))).join(" · ")}
            </p>
          )}
        </>
      )}
      {stated !== null && (
        <button
          className="mt-1 text-[0.95rem] text-choice underline"
          onClick={() => onTake(moves, inMarks(trimmed(stated), marks))}
        >
          Take {shown(stated)} into the loan
        </button>
      )}
    </div>
  );
}
