import type { Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Start } from "../guide/start";
import { rich, t } from "../../texts";

interface Props {
  q: string;
  /** Only what is for the analyst to judge was looked for. */
  toJudge: boolean;
  onAll: () => void;
  onSaid: (statement: Statement) => void;
}

/** Why there is nothing in the list, and what to do. */
export function Nothing({ q, toJudge, onAll, onSaid }: Props) {
  const { me } = useDesk();
  if (toJudge && !q)
    return <p className="mt-10 font-serif text-xl">{t("Nothing is for you to judge.")}</p>;
  return (
    <div className="mt-10">
      {q ? (
        <>
          <p className="font-serif text-xl">{t("No case holds “{q}”.", { q })}</p>
          <p className="mt-2 max-w-prose text-soft">
            {rich("Every word is looked for in names, notes, tags and figures. {button}", {
              button: (
                <Button look="link" onClick={onAll}>
                  {t("Show all")}
                </Button>
              ),
            })}
          </p>
        </>
      ) : (
        <>
          <p className="font-serif text-xl">{t("No cases yet.")}</p>
          <p className="mt-2 max-w-prose text-soft">
            {t(
              "A case is one loan: what is known of it, a ? for what is not, and everything that follows. Start one with “New case”, or press n.",
            )}
          </p>
          <Start currency={me.begins.currency} onSaid={onSaid} />
        </>
      )}
    </div>
  );
}
