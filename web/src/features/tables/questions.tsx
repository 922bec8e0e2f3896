import type { Defaults, FieldError, TableLooked } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Check } from "../../ui/field";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

interface Props {
  questions: TableLooked["questions"];
  defaults: Defaults;
  answered: readonly string[];
  wrong: readonly FieldError[];
  onAnswer: (changed: Partial<Defaults>) => void;
}

/** What the cells of a table do not say, and cannot be guessed. */
export function Questions({ questions, defaults, answered, wrong, onAnswer }: Props) {
  const { words } = useDesk();
  if (questions.length === 0) return null;
  return (
    <>
      <h2 className="mt-5 font-serif text-xl font-semibold">{t("What cannot be guessed")}</h2>
      {questions.map(({ about, says, choices }) => (
        <fieldset key={about} className="mt-2">
          <legend>{says}</legend>
          <div className="flex flex-wrap gap-x-6">
            {choices.map((value) => (
              <Check
                key={value}
                oneOf={about}
                label={words.table.answers[value] ?? value}
                checked={answered.includes(about) && defaults[about] === value}
                onChoose={() => onAnswer({ [about]: value })}
              />
            ))}
          </div>
          {wrong.some((error) => error.field === about) && !answered.includes(about) && (
            <Wrong className="">{t("Choose one: the rows depend on it.")}</Wrong>
          )}
        </fieldset>
      ))}
    </>
  );
}
