import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import {
  ask,
  client,
  type Answer,
  type CaseOpened,
  type Content,
  type Statement,
} from "../../api/client";
import { dropDraft } from "../../hooks/draft";
import { Keeping } from "../../ui/keeping";
import { useKeys } from "../../hooks/use-keys";
import { Menu } from "../../ui/menu";
import { inMarks, trimmed } from "../../ui/numbers";
import { CannotOpen } from "../../ui/cannot-open";
import { useDesk } from "../../hooks/use-desk";
import { StillWorking } from "../../ui/still-working";
import { useCopyCase } from "../../ui/start";
import { Taking, useTaking } from "../../ui/taking";
import { beginning, useKept, whenSaved } from "../../hooks/use-kept";
import { useUndo } from "../../hooks/use-undo";
import { Against } from "./reconciliation";
import { AnswerPanel } from "./answer";
import { Asking } from "./moments";
import { Note, Tags } from "./tags-and-note";
import { Conflict } from "./conflict";
import { contentOf, sendCase } from "./content";
import { History } from "./history";
import { Settled } from "./payoff";
import { Sharing } from "./sharing";
import {
  asked,
  FIGURES,
  isAskable,
  textOf,
  unknownEntry,
  withText,
  type EntryName,
  type FigureName,
} from "./figures";
import { NO_MORE, PayingMore } from "./paying-more";
import { WhatMoves } from "./sensitivity";
import { NO_POINTS, PointsForALowerRate } from "./points";
import { Trail } from "./trail";
import { useAsides } from "./use-asides";
import { LoanLine } from "./line";
import { Schedule, useYears } from "./schedule";
import { StatementOfTerms } from "./statement";
import { useStretch } from "./use-asked";
import { useWorked } from "./use-worked";
import { Working } from "./working";
import { answerWith } from "../../hooks/answer-with";

const KEYS: Record<FigureName, string> = {
  principal: "a",
  percent: "r",
  count: "m",
  payment: "p",
  balance: "b",
};

/** The first figure of the sentence: of a purchase its price. */
const FIRST_FIGURE = "[data-figure=principal], [data-figure=price]";

function focusOn(selector: string): void {
  document.querySelector<HTMLElement>(selector)?.focus();
}

const SHEETS = [
  "working",
  "history",
  "share",
  "against",
  "settled",
  "moves",
  "more",
  "points",
  "trail",
] as const;
type SheetName = (typeof SHEETS)[number];

/** The sheet that is open; the address names it, so that a link can. */
function useSheet() {
  const [search] = useSearchParams();
  const asked = SHEETS.find((name) => name === search.get("show")) ?? null;
  const [sheet, setSheet] = useState<SheetName | null>(asked);
  useEffect(() => {
    // The address follows without being gone to: nothing else depends on it.
    const address = sheet ? `?show=${sheet}` : location.pathname;
    history.replaceState(history.state, "", address);
  }, [sheet]);
  return [sheet, setSheet] as const;
}

/** The answer last found, while what is typed has none. */
function useLastGood(answer: Answer | null | undefined): Answer | undefined {
  const [last, setLast] = useState<Answer>();
  if (answer && answer !== last) setLast(answer);
  return answer ?? last;
}

function Opened({ opened }: { opened: CaseOpened }) {
  const { marks, me } = useDesk();
  const queries = useQueryClient();
  const copy = useCopyCase();
  const navigate = useNavigate();
  const kept = { opened, username: me.username, mayEdit: opened.may_edit, contentOf };
  const [content, setContent] = useState(() => beginning(kept));
  const send = useMemo(() => sendCase(opened.id), [opened.id]);
  const [sheet, setSheet] = useSheet();
  const { asides, change: changeAsides, send: sendAsides } = useAsides(opened);
  const { statement } = content;
  const years = useYears();
  const { worked, current, failed } = useWorked(statement, years[0]);
  const { keeping, goOnFrom, flush } = useKept({ ...kept, content, send });
  const answer = useLastGood(worked?.answer);
  const stale = failed !== null || (worked !== undefined && !worked.answer);
  const putBack = useCallback(
    (back: Statement) => setContent((now) => ({ ...now, statement: back })),
    [],
  );
  const takenBack = useUndo(statement, putBack);
  const ready = current && !stale;
  const [stretch, setStretch] = useState("");
  const [place, setPlace] = useState("");
  const summed = useStretch(statement, stretch, ready);
  const [shownFirst] = summed.data ?? [];
  const marked =
    stretch.trim() && shownFirst ? ([shownFirst.first, shownFirst.last] as const) : null;

  const change = (changed: Partial<Statement>) =>
    setContent((now) => ({ ...now, statement: { ...now.statement, ...changed } }));
  // What else has changed meanwhile stays changed.
  const setText = (name: EntryName, text: string) =>
    setContent((now) => ({ ...now, statement: withText(now.statement, name, text) }));
  const changeBeside = (changed: Partial<Content>) => setContent((now) => ({ ...now, ...changed }));
  const sheetOpen = (name: SheetName) => (open: boolean) => setSheet(open ? name : null);

  /** Makes a figure the unknown; the one unknown so far keeps what was found for it. */
  const askFor = (name: EntryName) => {
    const before = asked(statement);
    let next = withText(statement, name, "?");
    if (before && before !== name) {
      // While something else is half typed, what was found last stays good.
      const found = answer?.value;
      const isFound = found && unknownEntry(answer.unknown) === before;
      const isPercent = before === "percent" || answer?.unknown?.endsWith("percent");
      const plain = isPercent && found ? trimmed(found) : found;
      next = withText(next, before, isFound && plain ? inMarks(plain, marks) : "");
    }
    change(next);
  };
  const type = (name: EntryName, text: string) => {
    if (text.includes("?") && isAskable(name)) askFor(name);
    else setText(name, text);
  };
  const leave = (name: EntryName) => {
    const reading = current ? worked?.readings[name] : undefined;
    const typed = textOf(statement, name);
    if (typed && reading?.text && !reading.other && reading.text !== typed)
      setText(name, reading.text);
  };
  /** What stands here is saved first, so that what is taken out is what is seen. */
  const taking = useTaking(flush);
  const takeOut = (what: string, path: string) =>
    taking.take(what, `/api/v1/cases/${opened.id}/${path}`);
  const mineAsNew = useMutation({
    mutationFn: () => ask(client.POST("/api/v1/cases", { body: content })),
    onSuccess: (kept) => {
      dropDraft(me.username, opened.id);
      location.assign(`/cases/${kept.id}`);
    },
  });

  const keys = useMemo(
    () => [
      ...FIGURES.map((name) => ({
        key: KEYS[name],
        run: () => focusOn(name === "principal" ? FIRST_FIGURE : `[data-figure=${name}]`),
      })),
      { key: "l", run: () => focusOn("#line-cursor") },
      { key: "s", run: () => focusOn("#schedule button") },
      { key: "o", run: () => focusOn("#ask-owed") },
      { key: "x", run: () => focusOn("#ask-stretch") },
      { key: "j", run: () => focusOn("#schedule-jump") },
      ...(["working", "history", "moves", "trail"] as const).map((name, place) => ({
        key: "weyz".charAt(place),
        run: () => setSheet((now) => (now === name ? null : name)),
      })),
    ],
    [setSheet],
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
              if (event.key === "Enter") focusOn(FIRST_FIGURE);
              if (event.key === "Escape") event.currentTarget.blur();
            }}
          />
        </h1>
        <div className="flex flex-wrap items-baseline gap-x-5 text-sm text-soft">
          <Keeping keeping={keeping}>
            <button className="text-choice underline" onClick={() => copy.mutate(opened.id)}>
              Copy to my cases
            </button>
          </Keeping>
          <Menu
            name="What if"
            actions={[
              { label: "What moves it …", run: () => setSheet("moves") },
              { label: "Paying more …", run: () => setSheet("more") },
              { label: "Points for a lower rate …", run: () => setSheet("points") },
              { label: "Settled early …", run: () => setSheet("settled") },
            ]}
          >
            What if <span aria-hidden>▾</span>
          </Menu>
          <button className="hover:text-ink" onClick={() => setSheet("trail")}>
            Trail
          </button>
          <Link
            className="hover:text-ink"
            to={`/cases/${opened.id}/side-by-side`}
            onClick={(event) => {
              event.preventDefault();
              // What is shown there is what is kept: kept first.
              sendAsides();
              void flush().then(() => navigate(`/cases/${opened.id}/side-by-side`));
            }}
          >
            Side by side
          </Link>
          <button className="hover:text-ink" onClick={() => setSheet("history")}>
            History
          </button>
          {!opened.owner && (
            <button className="hover:text-ink" onClick={() => setSheet("share")}>
              Share
            </button>
          )}
          <Menu
            name="Take out"
            actions={[
              {
                label: "Statement to file (PDF)",
                run: () => takeOut("the statement", "statement"),
              },
              {
                label: "Schedule with live arithmetic (XLSX)",
                run: () => takeOut("the workbook", "schedule?kind=xlsx"),
              },
              { label: "Schedule (CSV)", run: () => takeOut("the schedule", "schedule?kind=csv") },
              { label: "Loan document (JSON)", run: () => takeOut("the document", "document") },
              { label: "Hold theirs against ours …", run: () => setSheet("against") },
            ]}
          >
            Take out <span aria-hidden>▾</span>
          </Menu>
        </div>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-4">
        {opened.owner && <p className="text-sm text-soft">{opened.owner}’s case</p>}
        <Tags content={content} onChange={changeBeside} />
      </div>
      <p role="status" className="text-sm text-soft">
        {takenBack > 0 &&
          `${takenBack === 1 ? "One change" : `${takenBack} changes`} taken back. Shift+Ctrl+Z makes it again.`}
      </p>
      <Taking taking={taking} />
      {opened.differs.length > 0 && (
        <p role="alert" className="mt-2 border-l-2 border-wrong pl-3">
          When this case was last saved an earlier core answered it, and differently:{" "}
          {opened.differs.join("; ")}.
        </p>
      )}
      {keeping.state === "conflict" && (
        <Conflict
          mine={content}
          kept={keeping.kept}
          base={keeping.base}
          onResolve={(chosen) => {
            setContent(chosen);
            goOnFrom(keeping.kept);
          }}
          onMineAsNew={() => mineAsNew.mutate()}
        />
      )}
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <StatementOfTerms
          statement={statement}
          worked={worked}
          current={current}
          onType={type}
          onLeave={leave}
          onChange={change}
          place={place}
        />
        <div>
          {failed && (
            <p role="alert" className="mb-2 text-wrong">
              The answer did not arrive: {failed.message}
            </p>
          )}
          <StillWorking busy={!current && !failed} />
          <AnswerPanel
            statement={statement}
            answer={answer}
            stale={stale}
            failed={failed !== null}
            busy={!current}
            onAsk={askFor}
            onWorking={() => setSheet("working")}
            onTake={(name, text) =>
              change({ ...withText(statement, name, text), aim_figure: "", aim_is: "", aim_by: "" })
            }
          />
          <Note content={content} onChange={changeBeside} />
        </div>
      </div>
      {answer && answer.schedule.length > 0 && (
        <div aria-busy={stale || !current}>
          <LoanLine
            answer={answer}
            statement={statement}
            ready={ready}
            start={worked?.readings.start?.value ?? null}
            marked={marked}
            onStretch={setStretch}
            onPlace={(payment) => setPlace(String(payment))}
            onMove={(clause, payment) =>
              change(withText(statement, `clauses.${clause}.at`, String(payment)))
            }
          />
          <Asking
            statement={statement}
            ready={ready}
            stretch={stretch}
            found={summed}
            onStretch={setStretch}
          />
          <Schedule answer={answer} statement={statement} marked={marked} years={years} />
        </div>
      )}
      <WhatMoves
        content={content}
        moves={asides.moves ?? null}
        onMoves={(moves) => changeAsides({ moves })}
        open={sheet === "moves"}
        onOpen={sheetOpen("moves")}
      />
      <PayingMore
        content={content}
        more={asides.more ?? NO_MORE}
        onMore={(more) => changeAsides({ more })}
        open={sheet === "more"}
        onOpen={sheetOpen("more")}
      />
      <PointsForALowerRate
        content={content}
        points={asides.points ?? NO_POINTS}
        onPoints={(points) => changeAsides({ points })}
        open={sheet === "points"}
        onOpen={sheetOpen("points")}
      />
      <Trail
        caseId={opened.id}
        mayEdit={opened.may_edit}
        pins={asides.pins}
        open={sheet === "trail"}
        onOpen={sheetOpen("trail")}
        flush={flush}
        saved={keeping.state === "saved" ? keeping.at.getTime() : null}
        onBack={(given) => change({ ...given, name: statement.name })}
        onPins={(pins) => changeAsides({ pins })}
      />
      <Settled statement={statement} open={sheet === "settled"} onOpen={sheetOpen("settled")} />
      <Against statement={statement} open={sheet === "against"} onOpen={sheetOpen("against")} />
      {answer && (
        <Working answer={answer} open={sheet === "working"} onOpen={sheetOpen("working")} />
      )}
      <History
        caseId={opened.id}
        mayEdit={opened.may_edit}
        open={sheet === "history"}
        onOpen={sheetOpen("history")}
        flush={flush}
        onBack={(back) => void answerWith(queries, ["case", opened.id], back)}
      />
      {!opened.owner && (
        <Sharing caseId={opened.id} open={sheet === "share"} onOpen={sheetOpen("share")} />
      )}
    </main>
  );
}

export function CasePage() {
  const { id = "" } = useParams();
  const { marks } = useDesk();
  const queries = useQueryClient();
  const opened = useQuery({
    queryKey: ["case", id],
    queryFn: async () => {
      await whenSaved(id);
      return ask(client.GET("/api/v1/cases/{case_id}", { params: { path: { case_id: id } } }));
    },
    // What is on the page is newer than what was fetched; another visit fetches anew.
    staleTime: Infinity,
    gcTime: 0,
  });
  useEffect(
    () => () => {
      // Another visit opens what is kept then, and the list tells it.
      queries.removeQueries({ queryKey: ["case", id] });
      void whenSaved(id).then(() => queries.invalidateQueries({ queryKey: ["cases"] }));
    },
    [queries, id],
  );
  if (opened.error)
    return <CannotOpen what="case" why={opened.error.message} to="/" list="To your cases" />;
  if (!opened.data || opened.isFetching)
    return <main className="p-8 text-soft">Opening the case …</main>;
  return <Opened key={`${id} ${marks.name} ${opened.data.version}`} opened={opened.data} />;
}
