import type { SpreadTold, SummaryTold } from "../../api/types";
import { Picture } from "../../ui/chart";
import { ToldTable } from "../../ui/table";
import { t } from "../../texts";

const TALL = 60;

/** How a figure is spread over the rows. */
function Spread({ spread }: { spread: SpreadTold }) {
  const most = Math.max(...spread.rows, 1);
  return (
    <figure className="min-w-56 grow">
      <figcaption className="text-sm text-soft">{spread.title}</figcaption>
      <Picture
        label={`${spread.title}: ${spread.says}`}
        width={spread.rows.length * 10}
        height={TALL}
        preserveAspectRatio="none"
        className="block h-16 w-full"
      >
        {spread.rows.map((rows, place) => {
          const height = (rows / most) * (TALL - 2);
          return (
            <rect
              key={place}
              x={place * 10 + 0.5}
              width={9}
              y={TALL - height}
              height={height}
              fill="var(--principal)"
            />
          );
        })}
      </Picture>
      <p className="flex justify-between text-sm text-soft">
        <span>{spread.low}</span>
        <span>{spread.high}</span>
      </p>
    </figure>
  );
}

/** What a table comes to: sums by currency, and how its figures are spread. */
export function Summary({ told }: { told: SummaryTold }) {
  return (
    <>
      <div
        role="region"
        aria-label={t("What the table comes to")}
        tabIndex={0}
        className="mt-3 max-w-5xl text-[0.95rem]"
      >
        <ToldTable label={t("Sums")} told={told.sums} />
      </div>
      <div className="mt-3 flex flex-wrap gap-6">
        {told.spread.map((spread) => (
          <Spread key={spread.title} spread={spread} />
        ))}
      </div>
    </>
  );
}
