import { useWaysOut } from "../../api/asking";
import type { LeftOver, ScheduleColumns, Statement } from "../../api/types";
import { capital } from "../../hooks/words";
import { Button } from "../../ui/button";
import { textAt } from "./columns";
import type { EntryName } from "./entries";
import { LinePicture } from "./line-picture";
import { useDrawn } from "./use-drawn";
import { t } from "../../texts";

interface Props {
  statement: Statement;
  onTake: (name: EntryName, text: string) => void;
}

/** Of a loan without an answer: what would give it one, to be taken, and where it leads. */
export function WaysOut({ statement, onTake }: Props) {
  const { data } = useWaysOut(statement);
  if (!data) return null;
  return (
    <>
      {data.ways.length > 0 && (
        <section aria-labelledby="ways-out" className="mt-3">
          <h2 id="ways-out" className="text-sm text-soft">
            {t("What would give it an answer")}
          </h2>
          <ul className="mt-1 grid gap-y-1">
            {data.ways.map((way) => (
              <li
                key={`${way.entry} ${way.typed}`}
                className="flex flex-wrap items-baseline gap-x-3"
              >
                <Button look="link" onClick={() => onTake(way.entry, way.typed)}>
                  {capital(way.text)}
                </Button>
                <span>{way.gives}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {data.schedule && (
        <AsItGoes
          statement={statement}
          schedule={data.schedule}
          left={data.left}
          says={data.goes ?? ""}
        />
      )}
    </>
  );
}

interface GoesProps {
  statement: Statement;
  schedule: ScheduleColumns;
  left: LeftOver | null;
  says: string;
}

/** The line of a loan that has no answer, as far as it is followed. */
function AsItGoes({ statement, schedule, left, says }: GoesProps) {
  const { box, width, drawn, count } = useDrawn(schedule, statement);
  return (
    <figure className="mt-3 rounded-lg border border-rule bg-sheet">
      <figcaption className="px-3 pt-2 text-sm text-soft">{says}</figcaption>
      <div ref={box}>
        <LinePicture
          drawn={drawn}
          width={width}
          count={count}
          label={says}
          left={left}
          end={Number(textAt(schedule, "closing", count - 1))}
          marked={null}
          cursor={null}
        />
      </div>
    </figure>
  );
}
