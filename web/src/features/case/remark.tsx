import { useReviews } from "../../api/reviews";
import type { CaseOpened, Figure } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { t, tn } from "../../texts";
import type { EntryName } from "./entries";

/** The mark of a figure that was commented on; whoever judges has one at each. */
export type Remark = (name: EntryName, title: string) => React.ReactNode;

/** The marks of the figures of a case; `onRemark` is told the path of the one that is meant. */
export function useRemarks(
  opened: CaseOpened,
  figures: readonly Figure[],
  onRemark: (path: string) => void,
): Remark {
  const { marks } = useDesk();
  const { comments, may_judge: mine } = opened.judging;
  const told = useReviews(opened.id, marks.name, opened.version, comments > 0, NOTHING_FIRST);
  return (name, title) => {
    const path = figures.find(({ entry }) => entry === name)?.path;
    const said = told.data?.comments.filter(({ figure }) => figure === path).length ?? 0;
    if (path === undefined || (said === 0 && !mine)) return null;
    return (
      <Button
        look="bare"
        className={`ml-0.5 min-h-6 min-w-6 rounded-full border px-1 align-super font-sans text-xs leading-none ${said ? "border-choice text-choice" : "border-rule text-soft hover:text-ink"}`}
        aria-label={
          said
            ? tn("{count} comment on {title}", "{count} comments on {title}", said, {
                count: said,
                title,
              })
            : t("Comment on {title}", { title })
        }
        onClick={() => onRemark(path)}
      >
        {said || "+"}
      </Button>
    );
  };
}

const NOTHING_FIRST = () => Promise.resolve();
