import type { Figure, Statement } from "../../api/types";
import { useSettled } from "../../hooks/use-settled";
import { NoAnswer } from "../../ui/answer";
import { Aimed } from "./aimed";
import { Checked } from "./checked";
import { RateCurve } from "./curve";
import { textOf, type EntryName } from "./entries";
import { Results } from "./results";
import { Several, Solved } from "./solved";
import { WaysOut } from "./ways-out";
import type { Good } from "./use-worked";
import { useIsFirst } from "../../ui/in-unit";
import { t } from "../../texts";

interface Props {
  statement: Statement;
  good: Good | undefined;
  /** The figures of the statement, as the server tells them. */
  figures: readonly Figure[];
  /** What is shown is the answer to what stood here before. */
  stale: boolean;
  /** The answer to what stands here now did not arrive. */
  failed: boolean;
  /** The answer to the last keystroke is on its way. */
  busy: boolean;
  onAsk: (name: EntryName) => void;
  onWorking: () => void;
  /** Puts a figure into the loan: what reaches an aim, or gives an answer where there is none. */
  onTake: (name: EntryName, text: string) => void;
}

/** The answer, the largest thing on the page; or the reason there is none, just as large. */
export function AnswerPanel({ good, ...props }: Props) {
  if (!good) return <NotYet {...props} />;
  const { statement, stale, failed, busy, onTake } = props;
  const { answer, told } = good;
  const asked = good.figures.find((figure) => figure.is_asked);
  const asksRate = asked?.path.endsWith("rate.percent");
  const aimed = <Aimed answer={answer} aim={told.aim} statement={statement} onTake={onTake} />;
  return (
    <section
      aria-label={t("Answer")}
      aria-busy={busy}
      className={stale ? "border-l-2 border-dashed border-rule-strong pl-4" : ""}
    >
      <Announced good={good} ready={!stale && !busy} />
      {stale && (
        <p className="text-sm text-soft">
          {failed
            ? t(
                "As last found, for what stood here before: the answer to what stands here now did not arrive.",
              )
            : t(
                "As last found. The statement is not whole now; its answer stands here once it is.",
              )}
        </p>
      )}
      {answer.reason ? (
        <>
          <NoAnswer reason={answer.reason} />
          {aimed}
          {!stale && <WaysOut statement={statement} onTake={onTake} />}
          <Results facts={told.facts.filter((fact) => fact.about === "rates")} />
        </>
      ) : (
        <>
          {aimed}
          <Found {...props} good={good} />
        </>
      )}
      {!stale && asksRate && (statement.clauses.length > 0 || answer.value === null) && (
        <RateCurve statement={statement} />
      )}
    </section>
  );
}

/** How long an answer stands before it is spoken. */
const SPOKEN_AFTER = 700;

/** The answer for who listens: one sentence, once it stands. */
function Announced({ good, ready }: { good: Good; ready: boolean }) {
  const { answer, told } = good;
  const figure = [told.value ?? "", answer.unit];
  if (useIsFirst()(answer.unit)) figure.reverse();
  const found = told.value === null ? "" : `${answer.asks} ${figure.join(" ")}.`;
  const said = useSettled(answer.reason ? "" : found, SPOKEN_AFTER);
  return (
    <p role="status" className="sr-only">
      {ready && said}
    </p>
  );
}

function Found({ good, stale, onAsk, onWorking }: Omit<Props, "good"> & { good: Good }) {
  const { answer, told } = good;
  if (answer.unknown === null) return <Checked answer={answer} told={told} onAsk={onAsk} />;
  if (answer.value === null) return <Several answer={answer} told={told} />;
  return (
    <Solved
      answer={answer}
      told={told}
      stale={stale}
      isBeside={typeof told.aim?.value === "string"}
      onWorking={onWorking}
    />
  );
}

/** What is still to be stated before there can be an answer. */
function NotYet({ statement, figures, busy }: Pick<Props, "statement" | "figures" | "busy">) {
  const blank = figures.filter(
    ({ entry }) => !entry.startsWith("clauses.") && textOf(statement, entry).trim() === "",
  );
  return (
    <section aria-label={t("Answer")}>
      <p className="font-serif text-2xl leading-snug text-soft">
        {busy && blank.length === 0
          ? t("The answer stands here in a moment.")
          : t("The answer stands here as soon as the statement is whole.")}
      </p>
      {blank.length > 0 && (
        <p className="mt-2">
          {t("Still to be stated: {blank}.", {
            blank: blank.map((figure) => figure.title).join(", "),
          })}
        </p>
      )}
    </section>
  );
}
