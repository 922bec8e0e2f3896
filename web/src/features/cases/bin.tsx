import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { undeleteCase, useCaseBin } from "../../api/bin";
import { CASES } from "../../api/cases";
import { LISTS, undeleteQuoteList, useQuoteListBin } from "../../api/quotes";
import { Button } from "../../ui/button";
import { Listed, Listing } from "../../ui/listing";
import { useDays } from "../../ui/moment";
import { Page, PageTitle } from "../../ui/page";
import { Wrong } from "../../ui/wrong";
import { rich, t } from "../../texts";

/** What was deleted in the last thirty days. */
export function BinPage() {
  const queries = useQueryClient();
  const { day, moment } = useDays();
  const cases = useCaseBin();
  const lists = useQuoteListBin();
  const back = useMutation({
    mutationFn: async ({ id, isList }: { id: string; isList: boolean }) => {
      await (isList ? undeleteQuoteList(id) : undeleteCase(id));
    },
    onSuccess: () =>
      Promise.all(
        [CASES, LISTS, ["bin"]].map((queryKey) => queries.invalidateQueries({ queryKey })),
      ),
  });
  const gone = [
    ...(cases.data ?? []).map((each) => ({ ...each, isList: false })),
    ...(lists.data ?? []).map((each) => ({
      ...each,
      called: each.name || t("Unnamed list"),
      isList: true,
    })),
  ].sort((one, other) => other.deleted_at.localeCompare(one.deleted_at));
  return (
    <Page title={t("Bin")} narrow>
      <PageTitle>{t("Bin")}</PageTitle>
      <p className="mt-1 text-soft">
        {rich("A deleted case or list of quotes stays here for thirty days. {link}", {
          link: (
            <Link className="text-choice underline" to="/">
              {t("To your cases")}
            </Link>
          ),
        })}
      </p>
      <Wrong error={cases.error ?? lists.error ?? back.error} />
      {cases.data && lists.data && gone.length === 0 && (
        <p className="mt-6 font-serif text-xl">{t("The bin is empty.")}</p>
      )}
      {gone.length > 0 && (
        <Listing label={t("Deleted")}>
          {gone.map((each) => (
            <Listed key={each.id}>
              <span className="mr-auto font-serif text-lg font-semibold">
                {each.called}
                {each.isList && (
                  <span className="ml-2 font-sans text-sm font-normal text-soft">
                    {t("list of quotes")}
                  </span>
                )}
              </span>
              <span className="text-sm text-soft">
                {t("deleted {deletedAt}, kept until {keptUntil}", {
                  deletedAt: moment(each.deleted_at),
                  keptUntil: day(each.kept_until),
                })}
              </span>
              <Button look="link" onClick={() => back.mutate(each)}>
                {t("Bring back")}
              </Button>
            </Listed>
          ))}
        </Listing>
      )}
    </Page>
  );
}
