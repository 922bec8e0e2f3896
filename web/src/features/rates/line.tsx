import { useState } from "react";
import type { Comparison, QuoteLine } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { Figure } from "../../ui/figure";
import { styleOf } from "../../ui/quoting";
import { Wrong } from "../../ui/wrong";
import { QuotePart } from "./quote";
import { t } from "../../texts";

type Typed = "percent" | "over" | "count";

interface Props {
  place: number;
  quote: QuoteLine;
  /** How it was read, where that is of what stands here now. */
  worked: Comparison["quotes"][number] | undefined;
  onChange: (changed: Partial<QuoteLine>) => void;
  onRemove: () => void;
}

/** One quote as a sentence: who says so many percent, quoted how. */
export function Line({ place, quote, worked, onChange, onRemove }: Props) {
  const { words } = useDesk();
  const [focus, setFocus] = useState<string | null>(null);
  const called = quote.name || t("quote {number}", { number: place + 1 });
  const errors = (worked?.errors ?? []).filter(
    (error) => error.field !== focus && quote[error.field as Typed] !== "",
  );
  const figure = (name: Typed) => (
    <Figure
      name={`${place}-${name}`}
      title={t("{title} of {called}", {
        title: words.line_entries[name]?.title ?? "",
        called,
      })}
      text={quote[name]}
      reading={worked?.readings[name]}
      error={worked?.errors.find((error) => error.field === name)?.message}
      errorId={`wrong-${place}-${name}`}
      onType={(text) => onChange({ [name]: text })}
      onFocus={() => setFocus(name)}
      onBlur={() => {
        setFocus(null);
        const read = worked?.readings[name];
        if (read?.text && !read.other && read.text !== quote[name]) onChange({ [name]: read.text });
      }}
    />
  );
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-3 border-b border-rule px-4 py-1 last:border-0 sm:grid-cols-[13rem_minmax(0,1fr)_auto]">
      <Field
        look="bare"
        name={t("Name of {called}", { called })}
        placeholder={t("Who quotes")}
        data-quote-name
        value={quote.name}
        maxLength={words.limits.name}
        className="min-w-0 font-semibold placeholder:font-normal max-sm:col-span-2"
        onType={(name) => onChange({ name })}
      />
      <div className="font-serif text-[1.15rem] leading-[2.3rem]">
        {figure("percent")} %{" "}
        <QuotePart
          quote={quote}
          of={`, ${called}`}
          figure={figure}
          onQuoting={(quoting) =>
            onChange({
              ...quoting,
              over: quoting.over || quote.over,
              ...(styleOf(quoting, words).is_of_a_loan && !quote.count
                ? { count: words.usual_count }
                : {}),
            })
          }
          onEvery={(every) => onChange({ every })}
        />
        {errors.map((error) => (
          <div key={error.field + error.message} id={`wrong-${place}-${error.field}`}>
            <Wrong error={error} className="font-sans text-[0.95rem] leading-snug" />
          </div>
        ))}
      </div>
      <Button look="mark" aria-label={t("Take off {called}", { called })} onClick={onRemove}>
        ×
      </Button>
    </li>
  );
}
