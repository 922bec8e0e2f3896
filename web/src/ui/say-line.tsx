import { useId, useMemo, useState, type ClipboardEvent, type ReactNode } from "react";
import { askLine, useSaidLine } from "../api/said";
import type { SaidLoan, Statement } from "../api/types";
import { useNewest } from "../hooks/use-newest";
import { useSettled } from "../hooks/use-settled";
import { Field } from "./field";
import { Wrong } from "./wrong";
import { InUnit } from "./in-unit";
import { t } from "../texts";

/** Where the cursor goes to say a loan. */
export const SAY_LINE = "#say-line";

/** Lines that are pasted stand behind each other, parted as the reader of lines parts them. */
export const pastesLines =
  (onText: (text: string) => void) => (event: ClipboardEvent<HTMLInputElement>) => {
    const pasted = event.clipboardData.getData("text");
    if (!/[\r\n]/.test(pasted)) return;
    event.preventDefault();
    const { value, selectionStart, selectionEnd } = event.currentTarget;
    const before = value.slice(0, selectionStart ?? value.length);
    const after = value.slice(selectionEnd ?? value.length);
    onText(`${before}${pasted.trim().replace(/\s*[\r\n]+\s*/g, "; ")}${after}`);
  };

interface Props {
  currency: string;
  /** What was said, as a statement. */
  onSaid: (statement: Statement) => void;
  autoFocus?: boolean;
  className?: string;
}

/** A loan typed as one says it, with how it is read while it is typed; Enter takes it. */
export function SayLine({ currency, onSaid, autoFocus = false, className = "" }: Props) {
  const [line, setLine] = useState("");
  const [failed, setFailed] = useState<Error | null>(null);
  const about = useId();
  const question = useMemo(() => ({ line, currency }), [line, currency]);
  const { found, current } = useNewest(question, useSaidLine);
  const said = line.trim() ? found.data : undefined;
  const spoken = useSettled(said ? inShort(said) : "", SPOKEN_AFTER);
  const take = async () => {
    if (!line.trim()) return;
    setFailed(null);
    try {
      const read = current && found.data ? found.data : await askLine(question);
      if (read.statement) onSaid(read.statement);
    } catch (error) {
      setFailed(error as Error);
    }
  };
  return (
    <div className={className}>
      <Field
        id={SAY_LINE.slice(1)}
        look="large"
        name={t("Say a loan")}
        placeholder={t("Say a loan: 43,700 at 5.4 % over 4 years")}
        value={line}
        autoFocus={autoFocus}
        autoComplete="off"
        spellCheck={false}
        aria-describedby={about}
        leaves
        className="w-full text-lg"
        onType={setLine}
        onEnter={() => void take()}
        onPaste={pastesLines(setLine)}
      />
      <p role="status" className="sr-only">
        {current && spoken}
      </p>
      <div id={about} className="mt-1.5 min-h-[3.2em] px-1 text-[0.95rem]">
        <Wrong className="">{(failed ?? found.error)?.message}</Wrong>
        {said ? <AsRead line={current ? line : ""} said={said} /> : <HowToSay />}
      </div>
    </div>
  );
}

/** How long what was read stands before it is spoken. */
const SPOKEN_AFTER = 700;

/** What came of a line, for who listens: one sentence. */
function inShort({ errors, missing, found }: SaidLoan): string {
  const [wrong] = errors;
  if (wrong) return wrong.message;
  if (missing.length > 0)
    return t("Still to be stated: {missing}.", { missing: missing.join(", ") });
  return found?.says ?? "";
}

function HowToSay() {
  return (
    <p className="text-soft">
      {t(
        "In any order: the amount, the rate, the term, the payment, what is left. What is missing is found: “196k, 11 years, pays 1,990, rate?”",
      )}
    </p>
  );
}

/** How a line is read: its sentence, the guesses, and the answer; or what is wrong and where. */
function AsRead({ line, said }: { line: string; said: SaidLoan }) {
  const { found } = said;
  return (
    <>
      {said.errors.map((error) => (
        <p key={`${error.begin} ${error.message}`} className="text-wrong">
          {error.message} {at(line, error.begin, error.end)}
        </p>
      ))}
      {said.missing.length > 0 && (
        <p>
          {t("Still to be stated, all but one: {missing}. Enter opens it as a case.", {
            missing: said.missing.join(", "),
          })}
        </p>
      )}
      {said.sentence && <p className="font-serif">{said.sentence}</p>}
      {found && (
        <p>
          {found.reason ?? (
            <>
              {found.asks}{" "}
              <InUnit unit={found.unit}>
                <b>{found.value}</b>
              </InUnit>
            </>
          )}
          <span className="text-soft">
            {" · "}
            {t("Enter opens it as a case")}
          </span>
        </p>
      )}
      {said.guesses.length > 0 && (
        <p className="text-soft">
          {t("Guessed: {guesses}", {
            guesses: said.guesses
              .map(({ text, says }) => (text ? `“${text}” ${says}` : says))
              .join(" · "),
          })}
        </p>
      )}
    </>
  );
}

/** The part of a line that something is said of, unless it is all of it. */
function at(line: string, begin: number, end: number): ReactNode {
  if (end - begin >= line.length) return null;
  return (
    <span className="text-soft">
      {line.slice(Math.max(0, begin - 24), begin)}
      <u className="decoration-wrong decoration-2">{line.slice(begin, end)}</u>
      {line.slice(end, end + 24)}
    </span>
  );
}
