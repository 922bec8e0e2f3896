import type { ReactNode } from "react";
import type { Figure, ResultWord, Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { AsideButton } from "../../ui/aside-button";
import { Choice } from "../../ui/choice";
import { Field } from "../../ui/field";
import { textOf, type EntryName } from "./entries";
import { filled, rich, t } from "../../texts";

interface Props {
  statement: Statement;
  /** The figures of the statement, as the server tells them. */
  figures: readonly Figure[];
  figure: (name: EntryName) => ReactNode;
  onChange: (change: Partial<Statement>) => void;
  /** Where the cursor stands on the line. */
  place: string;
}

/** Which result is to have which value, and which figure may move for that. */
export function AimLine({ statement, figures, figure, onChange, place }: Props) {
  const { results } = useDesk().words;
  const movable = figures.filter((each) => each.may_move);
  const { aim } = statement;
  if (!aim) return null;
  const [aimedAt = "", at = ""] = aim.figure.split("@");
  const moves = movable.find((each) => each.path === aim.by);
  const result = results.find((each) => each.name === aimedAt);
  const placed = { balance: place || "12", interest: "1-12" };
  const options = results
    .filter((each) => !each.is_dated || statement.start.trim())
    .map((each) =>
      optionOf(each, each.name === aimedAt ? at : (placed[each.name as "balance"] ?? "")),
    );
  return (
    <p className="mt-2 font-serif text-[1.15rem] leading-[2.2rem]" data-aim>
      {rich("Aim: the {result} {places}", {
        result: (
          <Choice
            name={t("Result aimed at")}
            value={aim.figure}
            shown={result ? filled(result.title, { place: at }) : aimedAt}
            options={options}
            onChoose={(chosen) => onChange({ aim: { ...aim, figure: chosen } })}
          />
        ),
        places: (
          <Places
            at={at}
            onChange={(typed) => onChange({ aim: { ...aim, figure: `${aimedAt}@${typed}` } })}
          />
        ),
      })}
      {rich("is to be {value}{percent}, and the {figure} moves for it", {
        value: figure("aim.is"),
        percent: result?.is_percent && " %",
        figure: (
          <Choice
            name={t("Figure that moves")}
            value={aim.by}
            shown={moves?.title ?? t("figure …")}
            options={movable.map(({ path, title }) => ({ value: path, label: title }))}
            onChoose={(by) => onChange({ aim: { ...aim, by } })}
          />
        ),
      })}
      {moves && textOf(statement, moves.entry).trim() !== "" && (
        <span className="text-soft"> {t("(what stands there is left aside)")}</span>
      )}
      . <AsideButton onClick={() => onChange({ aim: null })}>{t("Drop the aim")}</AsideButton>
    </p>
  );
}

/** A result as it can be chosen; one at a payment or over some with where that is. */
function optionOf(result: ResultWord, place: string) {
  return {
    value: result.is_placed ? `${result.name}@${place}` : result.name,
    label: filled(result.title, { place }),
  };
}

/** The payments a result is of, where it is of some: each can be changed in place. */
function Places({ at, onChange }: { at: string; onChange: (typed: string) => void }) {
  if (!at) return null;
  const places = at.split("-");
  return (
    <>
      {places.map((place, number) => (
        <Field
          key={number}
          name={[t("Payment it is of"), t("Payment it goes to")][number] ?? ""}
          value={place}
          inputMode="numeric"
          maxLength={6}
          className="mx-1 w-14 text-right font-sans text-base"
          onType={(text) => {
            const typed = text.replace(/\D/g, "") || "0";
            onChange(places.map((each, which) => (which === number ? typed : each)).join("-"));
          }}
        />
      ))}
    </>
  );
}
