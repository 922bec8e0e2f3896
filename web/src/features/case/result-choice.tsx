import { useDesk } from "../../hooks/use-desk";
import { Check } from "../../ui/field";
import { t } from "../../texts";

const ANSWER = "answer";

interface Props {
  /** Whether the loan has dates. */
  isDated: boolean;
  results: string[];
  /** One is to be seen, where two figures are varied. */
  single: boolean;
  onChoose: (results: string[]) => void;
}

/** Which results to see. */
export function ResultChoice({ isDated, results, single, onChoose }: Props) {
  const { words } = useDesk();
  const all = [
    { name: ANSWER, title: t("the {answer}", { answer: words.answer_title }) },
    ...words.results.filter((each) => !each.is_placed && (isDated || !each.is_dated)),
  ];
  const names = all.map(({ name }) => name);
  const choose = (name: string) => {
    if (single) onChoose([name]);
    else if (!results.includes(name))
      onChoose(names.filter((one) => one === name || results.includes(one)));
    else if (results.length > 1) onChoose(results.filter((one) => one !== name));
  };
  return (
    <fieldset className="flex flex-wrap gap-x-4 gap-y-0.5 text-[0.95rem]">
      <legend className="text-sm text-soft">{t("Results")}</legend>
      {all.map(({ name, title }) => (
        <Check
          key={name}
          label={title}
          checked={single ? results[0] === name : results.includes(name)}
          {...(single ? { oneOf: "moves-results" } : {})}
          onChoose={() => choose(name)}
        />
      ))}
    </fieldset>
  );
}
