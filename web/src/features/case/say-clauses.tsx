import { useState } from "react";
import { useSayClauses } from "../../api/said";
import type { Statement } from "../../api/types";
import { Field } from "../../ui/field";
import { pastesLines } from "../../ui/say-line";
import { Wrong } from "../../ui/wrong";
import type { Clause } from "./clauses";
import { t } from "../../texts";

interface Props {
  statement: Statement;
  onClauses: (clauses: Clause[]) => void;
}

/** Clauses typed as one says them; Enter adds them. What is not understood stays in the field. */
export function SayClauses({ statement, onClauses }: Props) {
  const [text, setText] = useState("");
  const say = useSayClauses((read, said) => {
    if (read.clauses.length > 0) onClauses(read.clauses);
    const left = read.errors.map(({ begin, end }) => said.slice(begin, end)).join("; ");
    // What has been typed since stays.
    setText((now) => (now === said ? left : now));
  });
  const { data } = say;
  return (
    <>
      <Field
        name={t("Say a clause")}
        placeholder={t("at 12 repay 4,500")}
        value={text}
        autoComplete="off"
        spellCheck={false}
        leaves
        className="w-72 max-w-full"
        onType={setText}
        onEnter={() => {
          if (text.trim()) say.mutate({ statement, text });
        }}
        onPaste={pastesLines(setText)}
      />
      {(say.error ?? data) && (
        <div role="status" className="w-full">
          <Wrong className="">{say.error?.message}</Wrong>
          {data?.errors.map((error) => (
            <p key={error.begin} className="text-wrong">
              {error.message}
            </p>
          ))}
          {data && data.guesses.length > 0 && (
            <p className="text-soft">
              {t("Guessed: {guesses}", {
                guesses: data.guesses.map((guess) => `“${guess.text}” ${guess.says}`).join(" · "),
              })}
            </p>
          )}
        </div>
      )}
    </>
  );
}
