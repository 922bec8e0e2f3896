import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { ask, client, type Answer, type Statement } from "../../api/client";
import { Choice } from "../../ui/choice";
import { inMarks, rounded, trimmed } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { PERCENTS, resultName, resultsOf } from "./results";
import { Trend } from "./trend";
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

/** The payments a result is of, where it is of some: each can be changed in place. */
function Places({ figure, onChange }: { figure: string; onChange: (figure: string) => void }) {
  const [kind, at] = figure.split("@");
  if (at === undefined) return null;
  const places = at.split("-");
  return (
    <>
      {places.map((place, number) => (
        <input
          key={number}
          aria-label={["Payment it is of", "Payment it goes to"][number] ?? ""}
          value={place}
          inputMode="numeric"
          maxLength={6}
          className="mx-1 w-14 rounded border border-rule-strong bg-sheet px-1.5 text-right font-sans text-base"
          onChange={(event) => {
            const typed = event.target.value.replace(/\D/g, "");
            onChange(
              `${kind}@${places.map((each, which) => (which === number ? typed || "0" : each)).join("-")}`,
            );
          }}
        />
      ))}
    </>
  );
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
  const over = /^interest@/.test(statement.aim_figure) ? statement.aim_figure : "interest@1-12";
  const moves = moving(statement);
  const isPercent = PERCENTS.includes(statement.aim_figure);
  return (
    <p className="mt-2 font-serif text-[1.15rem] leading-[2.2rem]" data-aim>
      Aim: the{" "}
      <Choice
        name="Result aimed at"
        value={statement.aim_figure}
        shown={resultName(statement.aim_figure)}
        options={[...resultsOf(statement), at, over].map((value) => ({
          value,
          label: resultName(value),
        }))}
        onChoose={(aim_figure) => onChange({ aim_figure })}
      />{" "}
      <Places figure={statement.aim_figure} onChange={(aim_figure) => onChange({ aim_figure })} />
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

/** The result against the figure that moves, with the aim across it. */
function AimCurve({
  statement,
  moves,
  aim,
}: {
  statement: Statement;
  moves: EntryName;
  aim: string;
}) {
  const { marks } = useDesk();
  const body = {
    statement,
    varied: [{ path: statement.aim_by, typed: "" }],
    results: [statement.aim_figure],
  };
  const found = useQuery({
    queryKey: ["moves", "aim", body],
    queryFn: ({ signal }) => ask(client.POST("/api/v1/ask/sensitivity", { body, signal })),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
  if (!found.data) return null;
  const percent = statement.aim_by.endsWith("percent");
  return (
    <figure className="mt-3 rounded-lg border border-rule bg-sheet p-2">
      <figcaption className="px-1 text-sm text-soft">
        {resultName(statement.aim_figure)} against the {titleOf(moves).toLowerCase()}
      </figcaption>
      <Trend
        data={found.data}
        name={() => titleOf(moves).toLowerCase()}
        shown={(_, value) =>
          `${inMarks(percent ? trimmed(rounded(value, 4)) : value, marks)}${percent ? " %" : ""}`
        }
        aim={aim}
      />
    </figure>
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
  const unit = aim.by.endsWith("percent")
    ? "%"
    : aim.by === "count"
      ? "payments"
      : statement.currency;
  const shown = (text: string) =>
    inMarks(aim.by.endsWith("percent") ? trimmed(rounded(text, 6)) : text, marks);
  return (
    <div className="mb-4 border-l-2 border-unknown pl-4">
      {aim.value !== null && (
        <>
          <p>The {titleOf(moves).toLowerCase()} that reaches the aim is</p>
          <p className="flex flex-wrap items-baseline gap-x-3">
            <output
              aria-label="Figure that reaches the aim"
              className="text-[2.4rem] leading-[1.15] font-bold tracking-tight break-all"
            >
              {shown(aim.value)}
            </output>
            <span className="text-xl text-soft">{unit}</span>
          </p>
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
      <AimCurve statement={statement} moves={moves} aim={aim.target} />
    </div>
  );
}
