import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import { usePeriodTotals } from "../../api/asking";
import { caseKey, CASES, startCase, useCase } from "../../api/cases";
import type { CaseOpened } from "../../api/types";
import { dropDraft } from "../../hooks/draft";
import { whenSaved } from "../../hooks/on-the-way";
import { useDesk } from "../../hooks/use-desk";
import { useSettled } from "../../hooks/use-settled";
import { useStopping } from "../../hooks/use-stopping";
import { CannotOpen } from "../../ui/cannot-open";
import { Page } from "../../ui/page";
import { SayLine } from "../../ui/say-line";
import { StillWorking } from "../../ui/still-working";
import { Wrong } from "../../ui/wrong";
import { Start } from "../guide/start";
import { AnswerPanel } from "./answer";
import { Conflict } from "./conflict";
import { isBlank, withText } from "./entries";
import { CaseHead } from "./head";
import { LoanLine } from "./line";
import { Asking } from "./moments";
import { useRemarks } from "./remark";
import { Schedule } from "./schedule";
import { Sheets } from "./sheets";
import { Differs, Standing } from "./standing";
import { StatementOfTerms } from "./statement";
import { Note, Tags } from "./tags-and-note";
import { TakenBack } from "./taken-back";
import { useAsides } from "./use-asides";
import { useCaseOnPage } from "./use-case";
import { useCaseKeys } from "./use-case-keys";
import { useSheet } from "./use-sheet";
import { isLaidOut } from "./use-worked";
import { useYears } from "./use-years";
import { t } from "../../texts";

const PAUSE = 90;

function Opened({ opened }: { opened: CaseOpened }) {
  const { me } = useDesk();
  const years = useYears();
  const onPage = useCaseOnPage(opened, years[0]);
  const { content, keeping, worked, current, failed, good, stale, step, change } = onPage;
  const { statement } = content;
  const [sheet, setSheet] = useSheet();
  const asides = useAsides(opened);
  useCaseKeys(setSheet);
  const stopping = useStopping(["work"], statement);
  const ready = current && !stale;
  const [stretch, setStretch] = useState("");
  const [place, setPlace] = useState("");
  const [spokenOf, setSpokenOf] = useState("");
  const remark = useRemarks(opened, worked?.figures ?? good?.figures ?? [], (path) => {
    setSpokenOf(path);
    setSheet("review");
  });
  const summed = usePeriodTotals(statement, useSettled(stretch.trim(), PAUSE), ready);
  const [shownFirst] = summed.data ?? [];
  const marked =
    stretch.trim() && shownFirst ? ([shownFirst.first, shownFirst.last] as const) : null;
  const mineAsNew = useMutation({
    mutationFn: () => startCase(content),
    onSuccess: (kept) => {
      dropDraft(me.username, opened.id);
      location.assign(`/cases/${kept.id}`);
    },
  });
  const called = statement.name || good?.told.called || opened.called;
  return (
    <Page title={called}>
      <CaseHead
        opened={opened}
        called={called}
        onPage={onPage}
        onSheet={setSheet}
        sendAsides={asides.send}
      />
      <div className="flex flex-wrap items-baseline gap-x-4">
        <Standing opened={opened} onPage={onPage} onReview={() => setSheet("review")} />
        <Tags content={content} onChange={onPage.changeBeside} />
        <Note content={content} onChange={onPage.changeBeside} />
      </div>
      <p role="status" className="text-sm text-soft">
        {step && <TakenBack step={step} />}
      </p>
      <Differs opened={opened} />
      {keeping.state === "conflict" && (
        <Conflict
          mine={content}
          kept={keeping.kept}
          base={keeping.base}
          onResolve={(chosen) => {
            onPage.setContent(chosen);
            onPage.goOnFrom(keeping.kept);
          }}
          onMineAsNew={() => mineAsNew.mutate()}
        />
      )}
      {isBlank(statement) && (
        <SayLine
          autoFocus
          currency={statement.currency}
          className="mt-4 max-w-3xl"
          onSaid={(said) => change({ ...said, name: statement.name || said.name })}
        />
      )}
      <div className="relative mt-2 grid grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <StatementOfTerms onPage={onPage} place={place} remark={remark} />
        <div>
          <Wrong className="mb-2">
            {failed && t("The answer did not arrive: {message}", { message: failed.message })}
          </Wrong>
          <StillWorking busy={!current && !failed} stopping={stopping} />
          <AnswerPanel
            statement={statement}
            good={good}
            figures={worked?.figures ?? []}
            stale={stale}
            failed={failed !== null}
            busy={!current}
            onAsk={onPage.askFor}
            onWorking={() => setSheet("working")}
            onTake={(name, text) => change({ ...withText(statement, name, text), aim: null })}
          />
        </div>
      </div>
      {isBlank(statement) && (
        <Start
          currency={statement.currency}
          onSaid={(said) => change({ ...said, name: statement.name || said.name })}
        />
      )}
      {isLaidOut(good) && (
        <div aria-busy={!ready}>
          <LoanLine
            good={good}
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
          <Schedule good={good} statement={statement} marked={marked} years={years} />
        </div>
      )}
      <Sheets
        opened={opened}
        onPage={onPage}
        asides={asides.asides}
        onAsides={asides.change}
        sheet={sheet}
        onSheet={setSheet}
        figure={spokenOf}
      />
    </Page>
  );
}

export function CasePage() {
  const { id = "" } = useParams();
  const { marks } = useDesk();
  const queries = useQueryClient();
  const opened = useCase(id, () => whenSaved(id));
  useEffect(
    () => () => {
      // Another visit opens what is kept then, and the list tells it.
      queries.removeQueries({ queryKey: caseKey(id) });
      void whenSaved(id).then(() => queries.invalidateQueries({ queryKey: CASES }));
    },
    [queries, id],
  );
  if (opened.error)
    return (
      <CannotOpen
        what={t("This case cannot be opened")}
        why={opened.error.message}
        to="/"
        list={t("To your cases")}
      />
    );
  if (!opened.data || opened.isFetching)
    return <main className="p-8 text-soft">{t("Opening the case …")}</main>;
  const { version, judging } = opened.data;
  const judged = `${judging.last?.number} ${judging.last?.state}`;
  return <Opened key={`${id} ${marks.name} ${version} ${judged}`} opened={opened.data} />;
}
