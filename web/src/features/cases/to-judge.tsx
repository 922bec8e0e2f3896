import { Button } from "../../ui/button";
import { t, tn } from "../../texts";

interface Props {
  /** How many cases are for the analyst to judge. */
  waiting: number;
  /** Only those are listed. */
  toJudge: boolean;
  onLook: (change: Record<string, string>) => void;
}

/** The way to what is for the analyst to judge, and back. */
export function ToJudge({ waiting, toJudge, onLook }: Props) {
  return (
    <Button
      look="link"
      aria-pressed={toJudge}
      onClick={() => onLook({ "to-judge": toJudge ? "" : "1" })}
    >
      {toJudge
        ? t("Show all cases")
        : tn("{count} for you to judge", "{count} for you to judge", waiting, { count: waiting })}
    </Button>
  );
}
