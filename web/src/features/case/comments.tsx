import { useState } from "react";
import { faultAt, useComment } from "../../api/reviews";
import type { ReviewsTold } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Area } from "../../ui/field";
import { useDays } from "../../ui/moment";
import { Select } from "../../ui/select";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

interface Props {
  caseId: string;
  told: ReviewsTold;
  /** The figure that is spoken of first. */
  figure: string;
  /** Nothing more is said of it. */
  isClosed: boolean;
}

/** What was said of its figures, and something more to say. */
export function Comments({ caseId, told, figure, isClosed }: Props) {
  const { moment } = useDays();
  const { comments, figures } = told;
  return (
    <section className="mt-5">
      <h3 className="font-semibold">{t("Comments")}</h3>
      {comments.length === 0 && (
        <p className="text-soft">{t("Nothing has been said of it yet.")}</p>
      )}
      <ol aria-label={t("Comments")} className="mt-2 space-y-3">
        {comments.map((each, place) => (
          <li key={place} className="border-l-2 border-rule pl-4">
            <p className="text-sm text-soft">
              <b className="text-ink">{each.title || t("The whole case")}</b>
              {each.stood !== null && ` ${each.stood}`} · {each.by} · {moment(each.at)}
            </p>
            <p className="whitespace-pre-wrap">{each.text}</p>
          </li>
        ))}
      </ol>
      {!isClosed && <Say key={figure} caseId={caseId} figure={figure} figures={figures} />}
    </section>
  );
}

/** Something to say of a figure, or of the whole case. */
function Say({
  caseId,
  figure: first,
  figures,
}: Pick<Props, "caseId" | "figure"> & Pick<ReviewsTold, "figures">) {
  const { words } = useDesk();
  const comment = useComment(caseId);
  const [figure, setFigure] = useState(first);
  const [text, setText] = useState("");
  const options = [
    { value: "", label: t("the whole case") },
    ...figures.map(({ name, title, text: stands }) => ({
      value: name,
      label: stands === null ? title : `${title} ${stands}`,
    })),
  ];
  return (
    <form
      aria-label={t("Comment")}
      className="mt-4 space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        comment.mutate({ figure, text }, { onSuccess: () => setText("") });
      }}
    >
      <Select label={t("On")} value={figure} options={options} onChoose={setFigure} />
      <Wrong error={faultAt(comment.error, "figure")} className="" />
      <Area
        name={t("What you say of it")}
        value={text}
        maxLength={words.limits.said}
        rows={2}
        className="w-full"
        onType={setText}
      />
      <Wrong error={faultAt(comment.error, "text")} className="" />
      <Wrong error={faultAt(comment.error, "")} className="" />
      <Button type="submit" disabled={comment.isPending}>
        {t("Comment")}
      </Button>
    </form>
  );
}
