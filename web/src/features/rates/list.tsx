import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link, useLocation, useParams } from "react-router";
import {
  ask,
  client,
  type FieldError,
  type QuoteLine,
  type QuoteList,
  type QuoteListOpened,
} from "../../api/client";
import { Choice } from "../../ui/choice";
import { paymentPeriod } from "../../ui/choices";
import { Figure } from "../../ui/figure";
import { Keeping } from "../../ui/keeping";
import { Menu } from "../../ui/menu";
import { CannotOpen } from "../../ui/cannot-open";
import { useDesk } from "../../hooks/use-desk";
import { beginning, useKept, whenSaved } from "../../hooks/use-kept";
import { EveryChoice, QuotePart } from "./quote";
import { Ranked } from "./ranked";
import { RatesTabs } from "./tabs";
import { useCompared } from "./use-compared";

const TITLE = { percent: "Percent", over: "Charged for", count: "Payments" } as const;
const MOST = 60;
const contentOf = (opened: QuoteListOpened): QuoteList => opened.content;

function blankQuote(like: QuoteLine | undefined): QuoteLine {
  const { quoted = "nominal", compounding = null, every = "month" } = like ?? {};
  return { name: "", percent: "", quoted, compounding, over: "", year_days: 365, count: "", every };
}

interface LineProps {
  place: number;
  quote: QuoteLine;
  compared: ReturnType<typeof useCompared>;
  onChange: (changed: Partial<QuoteLine>) => void;
  onRemove: () => void;
}

/** One quote as a sentence: who says so many percent, quoted how. */
function Line({ place, quote, compared, onChange, onRemove }: LineProps) {
  const { found, current } = compared;
  const worked = current ? found?.quotes[place] : undefined;
  const [focus, setFocus] = useState<string | null>(null);
  const called = quote.name || `quote ${place + 1}`;
  const errors = (worked?.errors ?? []).filter(
    (error) => error.field !== focus && quote[error.field as keyof typeof TITLE] !== "",
  );
  const figure = (name: keyof typeof TITLE) => (
    <Figure
      name={`${place}-${name}`}
      title={`${TITLE[name]} of ${called}`}
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
      <input
        aria-label={`Name of ${called}`}
        placeholder="Who quotes"
        value={quote.name}
        maxLength={200}
        className="min-w-0 bg-transparent font-semibold placeholder:font-normal placeholder:text-soft max-sm:col-span-2"
        onChange={(event) => onChange({ name: event.target.value })}
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
              ...(quoting.quoted === "flat" && !quote.count ? { count: "60" } : {}),
            })
          }
          onEvery={(every) => onChange({ every })}
        />
        {errors.map((error) => (
          <p
            key={error.field + error.message}
            id={`wrong-${place}-${error.field}`}
            role="alert"
            className="font-sans text-[0.95rem] leading-snug text-wrong"
          >
            {error.message}
          </p>
        ))}
      </div>
      <button
        aria-label={`Take off ${called}`}
        className="rounded px-1.5 text-soft hover:text-ink"
        onClick={onRemove}
      >
        ×
      </button>
    </li>
  );
}

interface YardstickProps {
  content: QuoteList;
  compared: ReturnType<typeof useCompared>;
  onChange: (changed: Partial<QuoteList["yardstick"]>) => void;
}

/** The loan on which the quotes are told in money. */
function Yardstick({ content, compared, onChange }: YardstickProps) {
  const { words } = useDesk();
  const { yardstick } = content;
  const { found, current } = compared;
  const errors = current ? (found?.yardstick_errors ?? []) : [];
  const figure = (name: "principal" | "count", title: string) => (
    <Figure
      name={`loan-${name}`}
      title={title}
      text={yardstick[name]}
      reading={current ? found?.yardstick[name] : undefined}
      error={errors.find((error) => error.field === name)?.message}
      onType={(text) => onChange({ [name]: text })}
      onFocus={() => undefined}
      onBlur={() => {
        const read = current ? found?.yardstick[name] : undefined;
        if (read?.text && !read.other) onChange({ [name]: read.text });
      }}
    />
  );
  const { noun } = paymentPeriod(yardstick, words.periods);
  return (
    <p className="mt-4 font-serif text-lg leading-[2.3rem]">
      In money on a loan of {figure("principal", "Amount lent")}{" "}
      <Choice
        name="Currency"
        value={yardstick.currency}
        shown={yardstick.currency}
        options={words.currencies.map((each) => ({
          value: each.code,
          label: `${each.code}  ${each.name}`,
        }))}
        onChoose={(currency) => onChange({ currency })}
      />
      , repaid by {figure("count", "Number of payments")}{" "}
      <EveryChoice
        name="Loan paid"
        every={yardstick.every}
        onEvery={(every) => onChange({ every })}
      />{" "}
      payments at the{" "}
      <Choice
        name="Paid at the"
        value={yardstick.timing}
        shown={yardstick.timing === "in-advance" ? "start" : "end"}
        options={[
          { value: "in-arrears", label: `end of each ${noun}, in arrears` },
          { value: "in-advance", label: `start of each ${noun}, in advance` },
        ]}
        onChoose={(timing) => onChange({ timing: timing as typeof yardstick.timing })}
      />{" "}
      of each {noun}.
    </p>
  );
}

function Opened({ opened }: { opened: QuoteListOpened }) {
  const { me } = useDesk();
  const { state } = useLocation() as { state: { problems?: FieldError[] } | null };
  const kept = { opened, username: me.username, mayEdit: true, contentOf };
  const [content, setContent] = useState(() => beginning(kept));
  const send = useMemo(
    () => (sent: QuoteList, version: number, leaving: boolean) =>
      ask(
        client.PUT("/api/v1/quote-lists/{list_id}", {
          params: { path: { list_id: opened.id } },
          body: { content: sent, version },
          keepalive: leaving,
        }),
      ),
    [opened.id],
  );
  const { keeping, goOnFrom } = useKept({ ...kept, content, send });
  const compared = useCompared(content);

  const change = (changed: Partial<QuoteList>) => setContent((now) => ({ ...now, ...changed }));
  const quotes = content.quotes;
  const add = () => {
    change({ quotes: [...quotes, blankQuote(quotes.at(-1))] });
    setTimeout(() => {
      const names = document.querySelectorAll<HTMLInputElement>("[placeholder='Who quotes']");
      names[names.length - 1]?.focus();
    });
  };
  const file = (kind: string) => `/api/v1/quote-lists/${opened.id}/file?kind=${kind}`;
  return (
    <main className="mx-auto max-w-[1280px] px-4 py-6 sm:px-8">
      <title>{`${content.name || "Unnamed list"} · Zephyrant`}</title>
      <div className="flex flex-wrap items-baseline justify-between gap-x-8 gap-y-2">
        <h1 className="min-w-0 grow">
          <input
            aria-label="Name of the list"
            placeholder="Name this list"
            value={content.name}
            maxLength={200}
            className="w-full max-w-2xl bg-transparent font-serif text-2xl font-semibold placeholder:text-soft"
            onChange={(event) => change({ name: event.target.value })}
          />
        </h1>
        <RatesTabs />
      </div>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-5 text-sm text-soft">
        <Keeping keeping={keeping} />
        <Menu
          name="Take out"
          actions={[
            { label: "As CSV", href: file("csv") },
            { label: "As JSON", href: file("json") },
          ]}
        >
          Take out
        </Menu>
        <Link className="hover:text-ink" to="/rates/side-by-side">
          All lists
        </Link>
      </div>
      {keeping.state === "conflict" && (
        <p role="alert" className="mt-2 border-l-2 border-wrong pl-3">
          This list was changed elsewhere meanwhile.{" "}
          <button className="text-choice underline" onClick={() => goOnFrom(keeping.kept)}>
            Keep what stands here
          </button>{" "}
          or{" "}
          <button
            className="text-choice underline"
            onClick={() => {
              setContent(keeping.kept.content);
              goOnFrom(keeping.kept);
            }}
          >
            take what was saved there
          </button>
        </p>
      )}
      {(state?.problems ?? []).length > 0 && (
        <div role="alert" className="mt-2 border-l-2 border-wrong pl-3">
          <p>Not every row of the file could be read; the rest is here.</p>
          <ul>
            {state?.problems?.map((problem) => (
              <li key={problem.field + problem.message}>
                <b>{problem.field}</b>: {problem.message}
              </li>
            ))}
          </ul>
        </div>
      )}
      <ol aria-label="Quotes" className="mt-4 rounded-lg border border-rule bg-sheet">
        {quotes.map((quote, place) => (
          <Line
            key={place}
            place={place}
            quote={quote}
            compared={compared}
            onChange={(changed) =>
              setContent((now) => ({
                ...now,
                quotes: now.quotes.map((each, k) => (k === place ? { ...each, ...changed } : each)),
              }))
            }
            onRemove={() => change({ quotes: quotes.filter((_, k) => k !== place) })}
          />
        ))}
        {quotes.length === 0 && <li className="px-4 py-2 text-soft">No quote stands here yet.</li>}
      </ol>
      {quotes.length < MOST && (
        <button className="mt-2 text-choice underline" onClick={add}>
          Add a quote
        </button>
      )}
      <Yardstick
        content={content}
        compared={compared}
        onChange={(changed) =>
          setContent((now) => ({ ...now, yardstick: { ...now.yardstick, ...changed } }))
        }
      />
      {compared.failed && (
        <p role="alert" className="mt-2 text-wrong">
          {compared.failed.message}
        </p>
      )}
      {compared.found && (
        <Ranked
          quotes={quotes}
          found={compared.found}
          currency={content.yardstick.currency}
          busy={!compared.current}
        />
      )}
    </main>
  );
}

export function QuoteListPage() {
  const { id = "" } = useParams();
  const { marks } = useDesk();
  const queries = useQueryClient();
  const opened = useQuery({
    queryKey: ["quote-list", id],
    queryFn: async () => {
      await whenSaved(id);
      return ask(
        client.GET("/api/v1/quote-lists/{list_id}", { params: { path: { list_id: id } } }),
      );
    },
    staleTime: Infinity,
    gcTime: 0,
  });
  useEffect(
    () => () => {
      // Another visit opens what is kept then, and the lists tell it.
      queries.removeQueries({ queryKey: ["quote-list", id] });
      void whenSaved(id).then(() => queries.invalidateQueries({ queryKey: ["quote-lists"] }));
    },
    [queries, id],
  );
  if (opened.error)
    return (
      <CannotOpen
        what="list"
        why={opened.error.message}
        to="/rates/side-by-side"
        list="To your lists"
      />
    );
  if (!opened.data || opened.isFetching)
    return <main className="p-8 text-soft">Opening the list …</main>;
  return <Opened key={`${id} ${marks.name}`} opened={opened.data} />;
}
