import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { ask, client, type Answer, type CaseOpened, type Statement } from "../api/client";
import { useKeys } from "../ui/keys";
import { inMarks, trimmed } from "../ui/numbers";
import { useDesk } from "../ui/settings";
import { AnswerPanel } from "./answer";
import { asked, FIGURES, type FigureName } from "./figures";
import { Keeping } from "./keeping";
import { LoanLine } from "./line";
import { Schedule } from "./schedule";
import { StatementOfTerms } from "./statement";
import { useKept } from "./use-kept";
import { useWorked } from "./use-worked";
import { Working } from "./working";

const KEYS: Record<FigureName, string> = {
  principal: "a",
  percent: "r",
  count: "m",
  payment: "p",
  balance: "b",
};

function focusOn(selector: string): void {
  document.querySelector<HTMLElement>(selector)?.focus();
}

/** The answer last found, while what is typed has none. */
function useLastGood(answer: Answer | null | undefined): Answer | undefined {
  const [last, setLast] = useState<Answer>();
  if (answer && answer !== last) setLast(answer);
  return answer ?? last;
}

function Opened({ opened }: { opened: CaseOpened }) {
  const { marks } = useDesk();
  const [statement, setStatement] = useState(opened.statement);
  const [workingOpen, setWorkingOpen] = useState(false);
  const { worked, current, failed } = useWorked(statement);
  const { keeping, goOnFrom } = useKept(opened, statement);
  const nothingAsked = asked(statement) === null;
  const answer = useLastGood(worked?.answer);
  const stale = worked !== undefined && !worked.answer;

  const change = (changed: Partial<Statement>) => setStatement((now) => ({ ...now, ...changed }));

  /** Makes a figure the unknown; the one unknown so far keeps what was found for it. */
  const askFor = (name: FigureName) => {
    const before = asked(statement);
    const changed: Partial<Statement> = { [name]: "?" };
    if (before && before !== name) {
      const found = worked?.answer?.value;
      const isFound = found && worked.answer?.unknown === (before === "percent" ? "rate" : before);
      const plain = before === "percent" && found ? trimmed(found) : found;
      changed[before] = isFound && plain ? inMarks(plain, marks) : "";
    }
    change(changed);
  };
  const type = (name: FigureName, text: string) => {
    if (text.includes("?")) askFor(name);
    else change({ [name]: text });
  };
  const leave = (name: FigureName) => {
    const reading = current ? worked?.readings[name] : undefined;
    if (reading?.text && !reading.other && reading.text !== statement[name])
      change({ [name]: reading.text });
  };

  const keys = useMemo(
    () => [
      ...FIGURES.map((name) => ({
        key: KEYS[name],
        run: () => focusOn(`[data-figure=${name}]`),
      })),
      { key: "l", run: () => focusOn("#line-cursor") },
      { key: "s", run: () => focusOn("#schedule button") },
      { key: "w", run: () => setWorkingOpen((open) => !open) },
    ],
    [],
  );
  useKeys(keys);

  const nameField = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (!opened.statement.name) nameField.current?.focus();
  }, [opened]);

  return (
    <main className="mx-auto max-w-[1280px] px-4 py-4 sm:px-8">
      <title>{`${statement.name || "Unnamed case"} · Zephyrant`}</title>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h1 className="min-w-0 grow">
          <input
            ref={nameField}
            aria-label="Name of the case"
            placeholder="Name this case"
            value={statement.name}
            maxLength={200}
            className="w-full max-w-2xl bg-transparent font-serif text-2xl font-semibold placeholder:text-soft"
            onChange={(event) => change({ name: event.target.value })}
            onKeyDown={(event) => {
              if (event.key === "Enter") focusOn("[data-figure=principal]");
              if (event.key === "Escape") event.currentTarget.blur();
            }}
          />
        </h1>
        <Keeping
          keeping={keeping}
          statement={statement}
          onTheirs={(kept) => {
            setStatement(kept.statement);
            goOnFrom(kept);
          }}
          onMine={goOnFrom}
        />
      </div>
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <StatementOfTerms
          statement={statement}
          worked={worked}
          current={current}
          onType={type}
          onLeave={leave}
          onChange={change}
        />
        <div>
          {failed && (
            <p role="alert" className="mb-2 text-wrong">
              The answer did not arrive: {failed.message}
            </p>
          )}
          <AnswerPanel
            statement={statement}
            answer={answer}
            nothingAsked={nothingAsked}
            stale={stale}
            busy={!current}
            onAsk={askFor}
            onWorking={() => setWorkingOpen(true)}
          />
        </div>
      </div>
      {answer && answer.schedule.length > 0 && !nothingAsked && (
        <div aria-busy={stale || !current}>
          <LoanLine answer={answer} statement={statement} />
          <Schedule answer={answer} />
        </div>
      )}
      {answer && <Working answer={answer} open={workingOpen} onOpen={setWorkingOpen} />}
    </main>
  );
}

export function CasePage() {
  const { id = "" } = useParams();
  const { marks } = useDesk();
  const queries = useQueryClient();
  const opened = useQuery({
    queryKey: ["case", id],
    queryFn: () => ask(client.GET("/api/cases/{case_id}", { params: { path: { case_id: id } } })),
    // What is on the page is newer than what was fetched; another visit fetches anew.
    staleTime: Infinity,
    gcTime: 0,
  });
  useEffect(() => () => void queries.invalidateQueries({ queryKey: ["cases"] }), [queries]);
  if (opened.error)
    return (
      <main className="mx-auto max-w-xl p-8">
        <h1 className="font-serif text-2xl font-semibold">This case cannot be opened</h1>
        <p className="mt-2">
          {opened.error.message}{" "}
          <Link className="text-choice underline" to="/">
            To your cases
          </Link>
        </p>
      </main>
    );
  if (!opened.data || opened.isFetching)
    return <main className="p-8 text-soft">Opening the case …</main>;
  return <Opened key={`${id} ${marks.name} ${opened.data.version}`} opened={opened.data} />;
}
