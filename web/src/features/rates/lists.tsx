import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import {
  LISTS,
  startQuoteList,
  startQuoteListFromFile,
  useDeleteQuoteList,
  useQuoteLists,
  useUndeleteQuoteList,
} from "../../api/quotes";
import type { FieldError, QuoteListOpened } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useKeys } from "../../hooks/use-keys";
import { Button } from "../../ui/button";
import { InTheBin, Listed, Listing } from "../../ui/listing";
import { useDays } from "../../ui/moment";
import { countedQuotes } from "../../ui/numbers";
import { Page, PageTitle } from "../../ui/page";
import { nameOf, Upload } from "../../ui/upload";
import { Wrong } from "../../ui/wrong";
import { RatesTabs } from "./tabs";
import { t } from "../../texts";

const UNNAMED = t("Unnamed list");

function useOpened() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  return (opened: QuoteListOpened & { problems?: FieldError[] }) => {
    void queries.invalidateQueries({ queryKey: LISTS });
    const state = { problems: opened.problems ?? [] };
    void navigate(`/rates/side-by-side/${opened.id}`, { state });
  };
}

/** Every list of quotes, and the ways to start one. */
export function QuoteLists() {
  const { me, marks, words } = useDesk();
  const { moment } = useDays();
  const onSuccess = useOpened();
  const [gone, setGone] = useState<{ id: string; name: string } | null>(null);
  const lists = useQuoteLists();
  const start = useMutation({ mutationFn: () => startQuoteList(me.marks), onSuccess });
  const open = useMutation({
    mutationFn: (file: File) =>
      startQuoteListFromFile(file, nameOf(file).slice(0, words.limits.name)),
    onSuccess,
  });
  const away = useDeleteQuoteList(setGone);
  const back = useUndeleteQuoteList(() => setGone(null));
  const { mutate: begin } = start;
  useKeys(useMemo(() => [{ key: "a", run: () => begin() }], [begin]));
  return (
    <Page title={t("Quotes side by side")}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-8 gap-y-2">
        <PageTitle>{t("Rates")}</PageTitle>
        <RatesTabs />
      </div>
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <p className="mr-auto max-w-prose text-soft">
          {t(
            "Quotes in whatever clothes they come, on one footing: ranked by what a year really costs, and in money on a loan.",
          )}
        </p>
        <Upload
          name={t("List of quotes to open")}
          accept=".csv,.json,text/csv,application/json"
          title={t("A CSV whose first row names its columns, or a JSON exported here")}
          onFile={(file) => open.mutate(file)}
        >
          {t("Open a file")}
        </Upload>
        <Button look="main" onClick={() => start.mutate()}>
          {t("New list")}
        </Button>
      </div>
      <Wrong error={open.error ?? start.error ?? lists.error ?? away.error ?? back.error} />
      {gone && <InTheBin name={gone.name || UNNAMED} onUndo={() => back.mutate(gone.id)} />}
      {lists.data?.length === 0 && (
        <p className="mt-8 font-serif text-xl">
          {t("No quotes are kept yet. “New list” starts one.")}
        </p>
      )}
      {lists.data && lists.data.length > 0 && (
        <Listing label={t("Lists of quotes")}>
          {lists.data.map((kept) => (
            <Listed key={kept.id}>
              <Link
                to={`/rates/side-by-side/${kept.id}`}
                className="min-w-0 grow truncate font-serif text-lg font-semibold"
              >
                {kept.name || UNNAMED}
              </Link>
              <span className="text-soft">{countedQuotes(kept.quotes, marks)}</span>
              <span className="hidden text-sm text-soft sm:block">{moment(kept.changed_at)}</span>
              <Button
                look="link"
                aria-label={t("Delete {name}", { name: kept.name || UNNAMED })}
                onClick={() => away.mutate(kept)}
              >
                {t("Delete")}
              </Button>
            </Listed>
          ))}
        </Listing>
      )}
    </Page>
  );
}
