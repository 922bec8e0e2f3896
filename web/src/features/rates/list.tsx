import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { Link, useLocation, useParams } from "react-router";
import { getQuoteList, listKey, LISTS, sendQuoteList, useQuoteList } from "../../api/quotes";
import type { FieldError, QuoteLine, QuoteList, QuoteListOpened } from "../../api/types";
import { beginning } from "../../hooks/keeper";
import { whenSaved } from "../../hooks/on-the-way";
import { useDesk } from "../../hooks/use-desk";
import { useExportKey } from "../../hooks/use-export-key";
import { useKept } from "../../hooks/use-kept";
import { useKeys } from "../../hooks/use-keys";
import { Button } from "../../ui/button";
import { CannotOpen } from "../../ui/cannot-open";
import { Field } from "../../ui/field";
import { Keeping } from "../../ui/keeping";
import { Menu } from "../../ui/menu";
import { Page } from "../../ui/page";
import { Unread, Wrong } from "../../ui/wrong";
import { Line } from "./line";
import { Ranked } from "./ranked";
import { RatesTabs } from "./tabs";
import { useCompared } from "./use-compared";
import { Yardstick } from "./yardstick";
import { rich, t } from "../../texts";

const contentOf = (opened: QuoteListOpened): QuoteList => opened.content;

function blankQuote(like: QuoteLine | undefined): QuoteLine {
  const { quoted = "nominal", compounding = null, every = "month" } = like ?? {};
  return { name: "", percent: "", quoted, compounding, over: "", year_days: 365, count: "", every };
}

/** The quotes of a list, and the ways to change them. */
function useQuotes(opened: QuoteListOpened) {
  const { me } = useDesk();
  const kept = { opened, username: me.username, mayEdit: true, contentOf };
  const [content, setContent] = useState(() => beginning(kept));
  const send = useMemo(() => sendQuoteList(opened.id), [opened.id]);
  const askNow = useCallback(() => getQuoteList(opened.id), [opened.id]);
  const { keeping, goOnFrom } = useKept({ ...kept, send, ask: askNow }, content, setContent);
  const change = (changed: Partial<QuoteList>) => setContent((now) => ({ ...now, ...changed }));
  const add = () => {
    change({ quotes: [...content.quotes, blankQuote(content.quotes.at(-1))] });
    setTimeout(() => {
      const names = document.querySelectorAll<HTMLInputElement>("[data-quote-name]");
      names[names.length - 1]?.focus();
    });
  };
  const changeQuote = (place: number, changed: Partial<QuoteLine>) =>
    setContent((now) => ({
      ...now,
      quotes: now.quotes.map((each, k) => (k === place ? { ...each, ...changed } : each)),
    }));
  const changeYardstick = (changed: Partial<QuoteList["yardstick"]>) =>
    setContent((now) => ({ ...now, yardstick: { ...now.yardstick, ...changed } }));
  return { content, setContent, keeping, goOnFrom, change, add, changeQuote, changeYardstick };
}

function Opened({ opened }: { opened: QuoteListOpened }) {
  const { words } = useDesk();
  const { state } = useLocation() as { state: { problems?: FieldError[] } | null };
  const { content, setContent, keeping, goOnFrom, change, add, changeQuote, changeYardstick } =
    useQuotes(opened);
  const compared = useCompared(content);
  useExportKey();
  useKeys(useMemo(() => [{ key: "a", run: add }], [add]));
  const now = compared.current ? compared.found : undefined;
  const { quotes } = content;
  const problems = state?.problems ?? [];
  const file = (kind: string) => `/api/v1/quote-lists/${opened.id}/file?kind=${kind}`;
  return (
    <Page title={content.name || t("Unnamed list")}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-8 gap-y-2">
        <h1 className="min-w-0 grow">
          <Field
            look="bare"
            name={t("Name of the list")}
            placeholder={t("Name this list")}
            value={content.name}
            maxLength={words.limits.name}
            className="w-full max-w-2xl font-serif text-2xl font-semibold"
            onType={(name) => change({ name })}
          />
        </h1>
        <RatesTabs />
      </div>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-5 text-sm text-soft">
        <Keeping keeping={keeping} />
        <Menu
          name={t("Export")}
          actions={[
            { label: t("As CSV"), href: file("csv") },
            { label: t("As JSON"), href: file("json") },
          ]}
        >
          {t("Export")}
        </Menu>
        <Link className="hover:text-ink" to="/rates/side-by-side">
          {t("All lists")}
        </Link>
      </div>
      {keeping.state === "conflict" && (
        <p role="alert" className="mt-2 border-l-2 border-wrong pl-3">
          {rich("This list was changed elsewhere meanwhile. {keep} or {take}", {
            keep: (
              <Button look="link" onClick={() => goOnFrom(keeping.kept)}>
                {t("Keep what stands here")}
              </Button>
            ),
            take: (
              <Button
                look="link"
                onClick={() => {
                  setContent(keeping.kept.content);
                  goOnFrom(keeping.kept);
                }}
              >
                {t("take what was saved there")}
              </Button>
            ),
          })}
        </p>
      )}
      {problems.length > 0 && (
        <div role="alert" className="mt-2 border-l-2 border-wrong pl-3">
          <p>{t("Not every row of the file could be read; the rest is here.")}</p>
          <Unread errors={problems} />
        </div>
      )}
      <ol aria-label={t("Quotes")} className="mt-4 rounded-lg border border-rule bg-sheet">
        {quotes.map((quote, place) => (
          <Line
            key={place}
            place={place}
            quote={quote}
            worked={now?.quotes[place]}
            onChange={(changed) => changeQuote(place, changed)}
            onRemove={() => change({ quotes: quotes.filter((_, k) => k !== place) })}
          />
        ))}
        {quotes.length === 0 && (
          <li className="px-4 py-2 text-soft">{t("No quote stands here yet.")}</li>
        )}
      </ol>
      {quotes.length < words.limits.quotes && (
        <Button look="link" className="mt-2" onClick={add}>
          {t("Add a quote")}
        </Button>
      )}
      <Yardstick yardstick={content.yardstick} found={now} onChange={changeYardstick} />
      <Wrong error={compared.failed} />
      {compared.found && (
        <Ranked
          quotes={quotes}
          found={compared.found}
          currency={content.yardstick.currency}
          busy={!compared.current}
        />
      )}
    </Page>
  );
}

export function QuoteListPage() {
  const { id = "" } = useParams();
  const { marks } = useDesk();
  const queries = useQueryClient();
  const opened = useQuoteList(id, () => whenSaved(id));
  useEffect(
    () => () => {
      // Another visit opens what is kept then, and the lists tell it.
      queries.removeQueries({ queryKey: listKey(id) });
      void whenSaved(id).then(() => queries.invalidateQueries({ queryKey: LISTS }));
    },
    [queries, id],
  );
  if (opened.error)
    return (
      <CannotOpen
        what={t("This list cannot be opened")}
        why={opened.error.message}
        to="/rates/side-by-side"
        list={t("To your lists")}
      />
    );
  if (!opened.data || opened.isFetching)
    return <main className="p-8 text-soft">{t("Opening the list …")}</main>;
  return <Opened key={`${id} ${marks.name}`} opened={opened.data} />;
}
