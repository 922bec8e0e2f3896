import type { Answer, Told } from "../../api/types";
import { Remark } from "../../ui/answer";
import { Button } from "../../ui/button";
import { Cell, RowHead, Table } from "../../ui/table";
import type { EntryName } from "./entries";
import { Results } from "./results";
import { rich, t } from "../../texts";

interface Props {
  answer: Answer;
  told: Told;
  onAsk: (name: EntryName) => void;
}

/** Every figure stated: whether they fit, and what each would have to be. */
export function Checked({ answer, told, onAsk }: Props) {
  const [says, ...notes] = answer.notes;
  return (
    <>
      <p className="text-soft">{answer.asks}</p>
      <p className="mt-1 font-serif text-[1.6rem] leading-snug font-semibold">{says}</p>
      {notes.map((note) => (
        <Remark key={note}>{note}</Remark>
      ))}
      <p className="mt-1 text-[0.95rem] break-all text-soft">
        {rich("left over before rounding {gap} · {paidAs}", {
          gap: told.gap,
          paidAs: answer.paid_as,
        })}
      </p>
      <Table className="mt-3">
        <caption className="text-left text-sm text-soft">
          {t("With the other figures as stated, each would have to be")}
        </caption>
        <tbody>
          {told.would_fit.map(({ entry, title, text, reason }) => (
            <tr key={title} className="border-b border-rule align-baseline">
              <RowHead className="font-normal text-soft">{title}</RowHead>
              <Cell className={text ? "font-semibold" : ""}>{text ?? reason}</Cell>
              <Cell className="w-16">
                {text && entry && (
                  <Button
                    look="link"
                    aria-label={t("find the {title}", { title: title.toLowerCase() })}
                    onClick={() => onAsk(entry)}
                  >
                    {t("find")}
                  </Button>
                )}
              </Cell>
            </tr>
          ))}
        </tbody>
      </Table>
      <Results facts={told.facts} />
    </>
  );
}
