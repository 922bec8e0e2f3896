import { Link } from "react-router";
import { useEndReview } from "../../api/reviews";
import type { CaseOpened, VersionBeside } from "../../api/types";
import { Button } from "../../ui/button";
import { useDays } from "../../ui/moment";
import { Wrong } from "../../ui/wrong";
import type { CaseOnPage } from "./use-case";
import { useNewVersion } from "./use-started";
import { rich, t } from "../../texts";

interface Props {
  opened: CaseOpened;
  onPage: CaseOnPage;
  onReview: () => void;
}

/** Whose a case is, how it was judged, and the versions beside it. */
export function Standing({ opened, onPage, onReview }: Props) {
  const { owner, judging } = opened;
  const { follows, followed_by: later } = judging;
  return (
    <>
      {owner && <p className="text-sm text-soft">{t("{owner}’s case", { owner })}</p>}
      {judging.last && <Judged opened={opened} onPage={onPage} onReview={onReview} />}
      {follows && (
        <p className="text-sm text-soft">
          {rich("A new version of {approved}, which was approved.", {
            approved: <Beside version={follows} />,
          })}
        </p>
      )}
      {later.length > 0 && (
        <p className="flex flex-wrap gap-x-3 text-sm text-soft">
          {t("Newer versions:")}
          {later.map((version) => (
            <Beside key={version.id} version={version} />
          ))}
        </p>
      )}
    </>
  );
}

function Beside({ version }: { version: VersionBeside }) {
  return (
    <Link className="text-choice underline" to={`/cases/${version.id}`}>
      {version.called}
    </Link>
  );
}

/** Where its last review stands, and what can be done now. */
function Judged({ opened, onPage, onReview }: Props) {
  const { moment } = useDays();
  const renew = useNewVersion(opened.id, onPage.content);
  const end = useEndReview(opened.id);
  const { last, locked, may_judge: mine, may_take_back: takes, may_renew: renews } = opened.judging;
  if (!last) return null;
  const { number, state, says, ended_at: ended, put_up_at: began, said } = last;
  return (
    <div
      role="note"
      aria-label={t("Review")}
      className={`my-1 basis-full border-l-2 pl-3 ${mine ? "border-choice" : "border-rule-strong"}`}
    >
      <p className="flex flex-wrap items-baseline gap-x-4">
        <b>
          {mine ? t("For you to judge") : says} · {moment(ended ?? began)}
        </b>
        {mine && (
          <Button look="link" onClick={onReview}>
            {t("Judge it")}
          </Button>
        )}
        {takes && (
          <Button
            look="link"
            disabled={end.isPending}
            onClick={() => end.mutate({ how: "take-back", number, said: "" })}
          >
            {t("Take it back")}
          </Button>
        )}
        {renews && (
          <Button look="link" disabled={renew.isPending} onClick={() => renew.mutate()}>
            {t("Begin a new version")}
          </Button>
        )}
      </p>
      {state === "sent-back" && <p className="text-sm whitespace-pre-wrap">{said}</p>}
      {locked && <p className="text-sm text-soft">{locked}</p>}
      <Wrong error={end.error ?? renew.error} className="" />
    </div>
  );
}

/** Where the core of today answers a case differently than it was answered. */
export function Differs({ opened }: { opened: CaseOpened }) {
  if (opened.differs.length === 0) return null;
  return (
    <p role="alert" className="mt-2 border-l-2 border-wrong pl-3">
      {t("When this case was last saved an earlier core answered it, and differently: {differs}.", {
        differs: opened.differs.join("; "),
      })}
    </p>
  );
}
