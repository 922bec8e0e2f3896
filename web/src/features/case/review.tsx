import { useState } from "react";
import { useColleagues } from "../../api/beside";
import { faultAt, useEndReview, usePutUp, useReviews } from "../../api/reviews";
import type { CaseOpened, ReviewTold } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Area } from "../../ui/field";
import { useDays } from "../../ui/moment";
import { Select } from "../../ui/select";
import { Sheet } from "../../ui/sheet";
import { Wrong } from "../../ui/wrong";
import { Comments } from "./comments";
import { t } from "../../texts";

interface Props {
  opened: CaseOpened;
  /** The figure that is spoken of first. */
  figure: string;
  open: boolean;
  onOpen: (open: boolean) => void;
  flush: () => Promise<number | null>;
}

/** A case before somebody else: put up, judged, commented on by figure. */
export function Review({ open, onOpen, ...props }: Props) {
  return (
    <Sheet
      title={t("Review")}
      about={t(
        "Somebody else judges what you put up: none of its authors. Approved, it stays as it is.",
      )}
      open={open}
      onOpen={onOpen}
    >
      <Inside {...props} />
    </Sheet>
  );
}

function Inside({ opened, figure, flush }: Omit<Props, "open" | "onOpen">) {
  const { marks } = useDesk();
  const told = useReviews(opened.id, marks.name, opened.version, true, flush);
  const { last, may_judge: mine, may_put_up: puts } = opened.judging;
  return (
    <>
      {puts && <PutUp caseId={opened.id} flush={flush} />}
      {mine && last && <Judge caseId={opened.id} review={last} />}
      <Wrong error={told.error} className="mt-3" />
      {told.data && (
        <Comments
          caseId={opened.id}
          told={told.data}
          figure={figure}
          isClosed={last?.state === "approved"}
        />
      )}
      {told.data && told.data.reviews.length > 0 && <Course reviews={told.data.reviews} />}
    </>
  );
}

/** Who is to judge it, and what they are told. */
function PutUp({ caseId, flush }: { caseId: string; flush: Props["flush"] }) {
  const { words } = useDesk();
  const colleagues = useColleagues(true);
  const put = usePutUp(caseId, flush);
  const [reviewer, setReviewer] = useState("");
  const [asked, setAsked] = useState("");
  const [unnamed, setUnnamed] = useState(false);
  if (colleagues.data?.length === 0)
    return (
      <p className="mt-4">{t("You have no colleagues here yet: somebody else has to judge it.")}</p>
    );
  const options = [
    { value: "", label: t("choose a colleague") },
    ...(colleagues.data ?? []).map(({ username, name }) => ({ value: username, label: name })),
  ];
  return (
    <form
      aria-label={t("Put up for review")}
      className="mt-4 space-y-3 border-b border-rule pb-5"
      onSubmit={(event) => {
        event.preventDefault();
        setUnnamed(!reviewer);
        if (reviewer) put.mutate({ reviewer, asked });
      }}
    >
      <Select
        label={t("To be judged by")}
        value={reviewer}
        options={options}
        onChoose={(chosen) => {
          setReviewer(chosen);
          setUnnamed(false);
          put.reset();
        }}
      />
      <Wrong
        error={
          unnamed ? { message: t("Choose who is to judge it.") } : faultAt(put.error, "reviewer")
        }
        className=""
      />
      <Area
        label={t("What they should know (may stay empty)")}
        value={asked}
        maxLength={words.limits.said}
        rows={2}
        className="mt-1 w-full"
        onType={setAsked}
      />
      <Wrong error={colleagues.error ?? faultAt(put.error, "")} className="" />
      <div className="flex flex-wrap items-baseline gap-3">
        <Button look="main" type="submit" disabled={put.isPending}>
          {t("Put up for review")}
        </Button>
        <span className="text-sm text-soft">
          {t("They may read it from then on; it stays as it is until they have judged it.")}
        </span>
      </div>
    </form>
  );
}

/** What the reviewer says of it, and how it ends. */
function Judge({ caseId, review }: { caseId: string; review: ReviewTold }) {
  const { words } = useDesk();
  const end = useEndReview(caseId);
  const [said, setSaid] = useState("");
  const ends = (how: "approve" | "send-back") => () =>
    end.mutate({ how, number: review.number, said });
  return (
    <section aria-label={t("Judge it")} className="mt-4 space-y-3 border-b border-rule pb-5">
      <p>
        {t("{name} put this up for you to judge.", { name: review.by })}
        {review.asked && <span className="block whitespace-pre-wrap">{review.asked}</span>}
      </p>
      <Area
        label={t("What you say of it")}
        value={said}
        maxLength={words.limits.said}
        rows={3}
        className="mt-1 w-full"
        onType={setSaid}
      />
      <Wrong error={faultAt(end.error, "said")} className="" />
      <Wrong error={faultAt(end.error, "")} className="" />
      <div className="flex flex-wrap gap-3">
        <Button look="main" disabled={end.isPending} onClick={ends("approve")}>
          {t("Approve")}
        </Button>
        <Button disabled={end.isPending} onClick={ends("send-back")}>
          {t("Send back")}
        </Button>
      </div>
    </section>
  );
}

/** Every time it was put up, the newest first. */
function Course({ reviews }: { reviews: readonly ReviewTold[] }) {
  const { moment } = useDays();
  return (
    <section className="mt-6">
      <h3 className="font-semibold">{t("Its course")}</h3>
      <ol className="mt-2 space-y-3">
        {reviews.map((each) => (
          <li key={each.number} className="border-l-2 border-rule pl-4">
            <p>
              {each.says}
              {each.ended_at && <span className="text-soft"> · {moment(each.ended_at)}</span>}
            </p>
            {each.said && <p className="whitespace-pre-wrap">{each.said}</p>}
            <p className="text-sm text-soft">
              {t("Step {step}, put up by {name}", { step: each.revision, name: each.by })} ·{" "}
              {moment(each.put_up_at)}
              {each.engine && ` · ${each.engine}`}
            </p>
            {each.asked && <p className="text-sm whitespace-pre-wrap">{each.asked}</p>}
          </li>
        ))}
      </ol>
    </section>
  );
}
