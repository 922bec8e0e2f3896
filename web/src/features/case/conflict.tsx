import { useState } from "react";
import { useDifferences } from "../../api/asking";
import type { CaseOpened, Content, Statement, VersionDifference } from "../../api/types";
import { capital } from "../../hooks/words";
import { Button } from "../../ui/button";
import { Check } from "../../ui/field";
import { Heads, RowHead, Table } from "../../ui/table";
import { Wrong } from "../../ui/wrong";
import { contentOf } from "./content";
import { t } from "../../texts";

type Side = "mine" | "theirs";

interface Props {
  mine: Content;
  kept: CaseOpened;
  base: Content;
  onResolve: (content: Content) => void;
  onMineAsNew: () => void;
}

type Parts = Record<string, unknown>;
const parts = ({ statement, note, tags }: Content): Parts => ({ ...statement, note, tags });

/** Their version with what is taken from mine. */
function merged(mine: Content, theirs: Content, taken: readonly VersionDifference[]): Content {
  const ours = parts(mine);
  const picked = parts(theirs);
  for (const field of taken.flatMap((each) => each.fields)) picked[field] = ours[field];
  const { note, tags, ...statement } = picked;
  return {
    statement: { ...statement, marks: mine.statement.marks } as Statement,
    note: note as string,
    tags: tags as string[],
  };
}

/** What stands here and what someone saved meanwhile, side by side; the analyst chooses. */
export function Conflict({ mine, kept, base, onResolve, onMineAsNew }: Props) {
  const theirs = contentOf(kept);
  const asked = useDifferences(mine, theirs, base);
  const differences = asked.data ?? [];
  // What only they changed is theirs, what was changed here is mine, until chosen otherwise.
  const [chosen, setChosen] = useState<Record<string, Side>>({});
  const side = ({ name, is_mine }: VersionDifference): Side =>
    chosen[name] ?? (is_mine ? "mine" : "theirs");
  return (
    <section
      role="alert"
      aria-label={t("Two versions of this case")}
      className="mt-3 rounded-lg border border-wrong bg-sheet p-4"
    >
      <h2 className="font-semibold text-wrong">
        {t(
          "This case was changed elsewhere while you worked on it. Nothing is lost; choose what counts.",
        )}
      </h2>
      <Wrong error={asked.error} />
      <Table className="mt-2">
        <Heads left={3} heads={[t("Differs"), t("Here"), t("Saved elsewhere")]} />
        <tbody>
          {differences.map((difference) => (
            <tr key={difference.name}>
              <RowHead className="font-semibold">{capital(difference.title)}</RowHead>
              {(["mine", "theirs"] as const).map((which) => (
                <td key={which} className="pr-6">
                  <Check
                    oneOf={`side-${difference.name}`}
                    label={difference[which]}
                    checked={side(difference) === which}
                    onChoose={() => setChosen((now) => ({ ...now, [difference.name]: which }))}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button
          look="main"
          disabled={!asked.data}
          onClick={() =>
            onResolve(
              merged(
                mine,
                theirs,
                differences.filter((each) => side(each) === "mine"),
              ),
            )
          }
        >
          {t("Go on with what is chosen")}
        </Button>
        <Button onClick={() => onResolve(mine)}>{t("All from here")}</Button>
        <Button onClick={() => onResolve(theirs)}>{t("All from elsewhere")}</Button>
        <Button onClick={onMineAsNew}>{t("Keep mine as a new case")}</Button>
      </div>
    </section>
  );
}
