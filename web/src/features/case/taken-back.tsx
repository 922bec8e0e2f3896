import { useDifferences } from "../../api/asking";
import type { Content } from "../../api/types";
import type { Step } from "../../hooks/use-undo";

/** What was just taken back, or made again, in words. */
export function TakenBack({ step }: { step: Step<Content> }) {
  const { from, to, isBack } = step;
  const asked = useDifferences(from, to, to);
  const said = asked.isPlaceholderData
    ? ""
    : (asked.data ?? [])
        .map(({ title, mine, theirs }) => `${title} ${mine} to ${theirs}`)
        .join("; ");
  return (
    <>
      {isBack ? "Taken back" : "Made again"}
      {said && `: ${said}`}. {isBack ? "Shift+Ctrl+Z makes it again." : "Ctrl+Z takes it back."}
    </>
  );
}
