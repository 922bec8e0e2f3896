import { useState } from "react";
import { useDesk } from "../../hooks/use-desk";
import { Figure } from "../../ui/figure";
import { Word } from "../../ui/word";
import { Wrong } from "../../ui/wrong";
import { AddRow } from "./add-row";
import { AimLine } from "./aim-line";
import { Bounds } from "./bounds";
import { BusinessDaysLine } from "./business-days";
import { CapacityLine } from "./capacity";
import { Clauses } from "./clauses";
import { DatesLine } from "./dates";
import { entryWord, textOf, titleOf, type EntryName } from "./entries";
import { FloatingLine } from "./floating";
import type { Remark } from "./remark";
import { RoundingChoice } from "./rounding";
import { Sentence } from "./sentence";
import { TwoWays, type Change } from "./two-ways";
import type { CaseOnPage } from "./use-case";
import { t } from "../../texts";

interface Props {
  onPage: CaseOnPage;
  /** Where the cursor stands on the line. */
  place: string;
  remark: Remark;
}

/** The terms of the loan as a sentence; every figure and choice in it can be changed in place. */
export function StatementOfTerms({ onPage, place, remark }: Props) {
  const { words } = useDesk();
  const { content, worked, current, type, leave, change } = onPage;
  const { statement } = content;
  const [focus, setFocus] = useState<EntryName | null>(null);
  const [ask, setAsk] = useState<Change | null>(null);
  // A day that is being typed anew is no loan without dates.
  const [dated, setDated] = useState(statement.start !== "");
  if (statement.start && !dated) setDated(true);
  const [fromIncome, setFromIncome] = useState(false);
  // While one types there the payment keeps its place.
  const [unpaid, setUnpaid] = useState(false);
  const isNothing = Number(worked?.readings.payment?.value ?? 1) === 0;
  if (focus !== "payment" && current && unpaid !== isNothing) setUnpaid(isNothing);
  const now = current ? worked : undefined;
  const errors = now?.errors ?? [];
  // What is wrong in the field one is in stands under it; the rest is listed below the sentence.
  const listed = errors.filter(({ field }) => {
    const entry = entryWord(field, words);
    const blank = entry && !entry.may_be_empty && textOf(statement, field) === "";
    return field !== "" && field !== focus && !blank;
  });
  const isAside = (name: EntryName) =>
    statement.aim !== null &&
    worked?.figures.find(({ entry }) => entry === name)?.path === statement.aim?.by;
  const figure = (name: EntryName) => (
    <>
      <Figure
        name={name}
        title={titleOf(name, words)}
        text={textOf(statement, name)}
        reading={now?.readings[name]}
        error={errors.find((error) => error.field === name)?.message}
        errorId={`wrong-${name}`}
        isAside={isAside(name)}
        onType={(text) => type(name, text)}
        onFocus={() => setFocus(name)}
        onBlur={(isEdited) => {
          setFocus((was) => (was === name ? null : was));
          leave(name, isEdited);
        }}
      />
      {remark(name, titleOf(name, words))}
    </>
  );
  const lent = worked?.readings.principal?.text ?? "";
  return (
    <section aria-label={t("Statement of terms")}>
      <Sentence
        statement={statement}
        figure={figure}
        dated={dated}
        lent={current && !statement.aim?.by.startsWith("purchase") ? lent : ""}
        unpaid={unpaid}
        onChange={change}
        onAsk={setAsk}
      />
      <Clauses
        statement={statement}
        figure={figure}
        notes={now?.answer?.clause_notes ?? []}
        onChange={change}
        place={place}
      />
      {ask && (
        <TwoWays
          key={JSON.stringify(ask)}
          statement={statement}
          change={ask}
          onChosen={(changed) => {
            setAsk(null);
            if (changed) change(changed);
          }}
        />
      )}
      <FloatingLine
        statement={statement}
        readings={now?.readings}
        figure={figure}
        onChange={change}
        onType={type}
        onLeave={leave}
      />
      <Bounds statement={statement} readings={now?.readings} figure={figure} onChange={change} />
      <BusinessDaysLine statement={statement} figure={figure} onChange={change} />
      <RoundingChoice statement={statement} onChange={change} />
      <DatesLine
        statement={statement}
        dated={dated}
        onChange={change}
        onUndated={() => setDated(false)}
      />
      {fromIncome && (
        <CapacityLine
          statement={statement}
          note={now?.readings.payment?.note}
          onType={type}
          onDone={() => setFromIncome(false)}
        />
      )}
      <AimLine
        statement={statement}
        figures={worked?.figures ?? []}
        figure={figure}
        onChange={change}
        place={place}
      />
      <AddRow
        statement={statement}
        lent={lent}
        dated={dated}
        fromIncome={fromIncome}
        movable={worked?.figures.find((each) => each.may_move)?.path ?? "principal"}
        onChange={change}
        onIncome={() => setFromIncome(true)}
      />
      {listed.map((error) => (
        <div key={error.field + error.message} id={`wrong-${error.field}`}>
          <Wrong className="mt-2 text-[0.95rem]">
            {entryWord(error.field, words) && <b>{titleOf(error.field, words)}: </b>}
            {error.message}
          </Wrong>
        </div>
      ))}
      <Clock clock={worked?.answer?.clock} />
      <div className="min-h-5 lg:absolute lg:inset-x-0 lg:top-full">
        <Help focus={focus} />
      </div>
    </section>
  );
}

/** How the quote became the rate of a payment. */
function Clock({ clock }: { clock: string | null | undefined }) {
  return (
    <p className="mt-2.5 border-l-2 border-rule-strong pl-3 text-[0.95rem] text-soft">
      {clock ? (
        <>
          <b className="text-ink">
            <Word of="one_clock">{t("One clock")}</Word>:
          </b>{" "}
          {clock}
        </>
      ) : (
        t("State what is known and put ? where a figure is missing.")
      )}
    </p>
  );
}

/** What belongs into the field one is in. */
function Help({ focus }: { focus: EntryName | null }) {
  const { words } = useDesk();
  const entry = focus === null ? undefined : entryWord(focus, words);
  if (focus === null || !entry) return null;
  return (
    <p className="text-sm text-soft">
      <b className="text-ink">{titleOf(focus, words)}.</b> {entry.help}
      {entry.may_be_asked && ` ${t("Type ? to have it found.")}`}
    </p>
  );
}
