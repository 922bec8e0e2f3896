import { useState } from "react";
import type { Statement, Worked } from "../../api/client";
import { Choice } from "../../ui/choice";
import { Figure } from "../../ui/figure";
import { QuoteChoice } from "../../ui/presets";
import { useDesk } from "../../hooks/use-desk";
import { everyChosen, everyOptions, isTimed, paymentPeriod } from "../../ui/choices";
import { AimLine } from "./aim";
import { CapacityLine } from "./capacity";
import { Clauses } from "./clauses";
import { DatesLine } from "./dates";
import {
  entryOf,
  fieldOf,
  helpOf,
  isAskable,
  isOptional,
  textOf,
  titleOf,
  type EntryName,
} from "./figures";
import { RoundingChoice } from "./rounding";
import { TwoWays, type Change } from "./two-ways";

interface Props {
  statement: Statement;
  worked: Worked | undefined;
  /** Whether `worked` is of this statement, not of the one before the last keystroke. */
  current: boolean;
  onType: (name: EntryName, text: string) => void;
  onLeave: (name: EntryName) => void;
  onChange: (change: Partial<Statement>) => void;
  /** Where the cursor stands on the line. */
  place: string;
}

/** The terms of the loan as a sentence; every figure and choice in it can be changed in place. */
export function StatementOfTerms({
  statement,
  worked,
  current,
  onType,
  onLeave,
  onChange,
  place,
}: Props) {
  const { words } = useDesk();
  const [focus, setFocus] = useState<EntryName | null>(null);
  const [ask, setAsk] = useState<Change | null>(null);
  // A day that is being typed anew is no loan without dates.
  const [dated, setDated] = useState(statement.start !== "");
  if (statement.start && !dated) setDated(true);
  const { periods } = words;
  const noun = paymentPeriod(statement, periods).noun;
  const often = paymentPeriod(statement, periods).often;
  const errors = current ? (worked?.errors ?? []) : [];
  // What is wrong in the field one is in stands under it; the rest is listed below the sentence.
  const listed = errors.flatMap((error) => {
    if (error.field === "") return [];
    const name = entryOf(error.field);
    const blank = name !== undefined && textOf(statement, name) === "";
    const hidden = name === focus || (blank && name !== undefined && !isOptional(name));
    return hidden && name !== undefined ? [] : [{ ...error, name }];
  });

  const figure = (name: EntryName) => (
    <Figure
      name={name}
      title={titleOf(name)}
      text={textOf(statement, name)}
      reading={current ? worked?.readings[name] : undefined}
      error={errors.find((error) => error.field === fieldOf(name))?.message}
      errorId={`wrong-${name}`}
      onType={(text) => onType(name, text)}
      onFocus={() => setFocus(name)}
      onBlur={() => {
        setFocus((now) => (now === name ? null : now));
        onLeave(name);
      }}
    />
  );
  const clock = worked?.answer?.clock;
  const currency = (
    <Choice
      name="Currency"
      value={statement.currency}
      shown={statement.currency}
      options={words.currencies.map((each) => ({
        value: each.code,
        label: `${each.code}  ${each.name}`,
      }))}
      onChoose={(chosen) => onChange({ currency: chosen })}
    />
  );
  const lent = worked?.readings.principal?.text ?? "";

  return (
    <section aria-label="Statement of terms">
      <div className="font-serif text-[1.35rem] leading-[2.55rem]">
        {statement.is_purchase ? (
          <>
            Of a price of {figure("price")} {currency} {figure("down")}{" "}
            <Choice
              name="Down payment in"
              value={statement.down_in_percent ? "percent" : "amount"}
              shown={statement.down_in_percent ? "%" : statement.currency}
              options={[
                { value: "percent", label: "percent of the price" },
                { value: "amount", label: `an amount, ${statement.currency}` },
              ]}
              onChoose={(value) => onChange({ down_in_percent: value === "percent" })}
            />{" "}
            is paid at once; we lend the rest
            {current && !statement.aim_by.startsWith("purchase") && lent && (
              <>
                , <b className="font-sans">{lent}</b>,
              </>
            )}{" "}
          </>
        ) : (
          <>
            We lend {figure("principal")} {currency}{" "}
          </>
        )}
        {dated && <>on {figure("start")} </>}
        at {figure("percent")} %{" "}
        <QuoteChoice quote={statement} onChoose={(quoting) => setAsk({ requote: quoting })} />
        {isTimed(statement) && <> {figure("over")}</>}, repaid by {figure("count")}{" "}
        <Choice
          name="Paid"
          value={String(statement.every)}
          shown={often}
          options={everyOptions(statement, periods)}
          onChoose={(value) => setAsk({ repace: everyChosen(value) })}
        />{" "}
        payments of {figure("payment")} at the{" "}
        <Choice
          name="Paid at the"
          value={statement.timing}
          shown={statement.timing === "in-advance" ? "start" : "end"}
          options={[
            { value: "in-arrears", label: `end of each ${noun}, in arrears` },
            { value: "in-advance", label: `start of each ${noun}, in advance` },
          ]}
          onChoose={(timing) => onChange({ timing: timing as Statement["timing"] })}
        />{" "}
        of each {noun}
        {dated && <> from {figure("first_payment")}</>}, with {figure("balance")} still owed at the
        end{statement.clauses.length > 0 ? ", except that" : "."}
      </div>
      <Clauses
        statement={statement}
        figure={figure}
        notes={current ? (worked?.answer?.clause_notes ?? []) : []}
        onChange={onChange}
        place={place}
      />
      {ask && (
        <TwoWays
          key={JSON.stringify(ask)}
          statement={statement}
          change={ask}
          onChosen={(changed) => {
            setAsk(null);
            if (changed) onChange(changed);
          }}
        />
      )}
      <RoundingChoice statement={statement} onChange={onChange} />
      <DatesLine
        statement={statement}
        dated={dated}
        onChange={onChange}
        onUndated={() => setDated(false)}
      />
      <p className="mt-1 text-[0.95rem] text-soft">
        <button
          className="text-choice underline decoration-dotted underline-offset-[0.3em]"
          onClick={() => {
            const stated = statement.principal.trim();
            onChange(
              statement.is_purchase
                ? { is_purchase: false, principal: lent, price: "", down: "" }
                : { is_purchase: true, price: stated, down: "0", principal: "" },
            );
            const first = statement.is_purchase ? "principal" : "price";
            setTimeout(() =>
              document.querySelector<HTMLElement>(`[data-figure=${first}]`)?.focus(),
            );
          }}
        >
          {statement.is_purchase ? "State the amount lent instead" : "Say what is bought"}
        </button>
        <span aria-hidden> · </span>
        <CapacityLine
          statement={statement}
          note={current ? worked?.readings.payment?.note : undefined}
          onType={onType}
        />
      </p>
      <AimLine statement={statement} figure={figure} onChange={onChange} place={place} />
      {listed.map((error) => (
        <p
          key={error.field + error.message}
          id={error.name && `wrong-${error.name}`}
          role="alert"
          className="mt-2 text-[0.95rem] text-wrong"
        >
          {error.name && <b>{titleOf(error.name)}: </b>}
          {error.message}
        </p>
      ))}
      <p className="mt-3 border-l-2 border-rule-strong pl-3 text-[0.95rem] text-soft">
        {clock ? (
          <>
            <b className="text-ink">One clock:</b> {clock}
          </>
        ) : (
          "State what is known and put ? where a figure is missing."
        )}
      </p>
      <p className="mt-1.5 min-h-[2.7em] pl-3.5 text-[0.95rem] text-soft">
        {focus && (
          <>
            <b className="text-ink">{titleOf(focus)}.</b> {helpOf(focus)}
            {isAskable(focus) && " Type ? to have it found."}
          </>
        )}
      </p>
    </section>
  );
}
