import { useDifferences } from "../../api/asking";
import type { Content } from "../../api/types";
import type { Step } from "../../hooks/use-undo";
import { t } from "../../texts";

/** What was just taken back, or made again, in words. */
export function TakenBack({ step }: { step: Step<Content> }) {
  const { from, to, isBack } = step;
  const asked = useDifferences(from, to, to);
  const said = asked.isPlaceholderData
    ? ""
    : (asked.data ?? [])
        .map(({ title, mine, theirs }) => t("{title} {mine} to {theirs}", { title, mine, theirs }))
        .join("; ");
  return (
    <>
      {isBack ? t("Taken back") : t("Made again")}
      {said && `: ${said}`}.{" "}
      {isBack ? t("Shift+Ctrl+Z makes it again.") : t("Ctrl+Z takes it back.")}
    </>
  );
}
