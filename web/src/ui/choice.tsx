import type { ReactNode } from "react";
import type { Option } from "../api/types";
import { Opening } from "./opening";
import type { Choosable } from "./quoting";

interface Props {
  name: string;
  value: string;
  shown: string;
  /** What ends its words, and so never begins a line. */
  ends?: ReactNode;
  /** What it could be instead, some of them under a heading. */
  options: readonly Choosable[];
  onChoose: (value: string) => void;
  className?: string;
}

/** Words with a dotted line under them that open into what they could be instead. */
export function Choice({ name, value, shown, ends, options, onChoose, className = "" }: Props) {
  return (
    <Opening
      name={`${name}: ${shown}`}
      className={`text-left leading-snug text-choice underline decoration-dotted decoration-1 underline-offset-[0.3em] hover:decoration-solid ${className}`}
      list={(lists, opened) => (
        <lists.ChoiceList {...opened} value={value} options={options} onChoose={onChoose} />
      )}
    >
      {shown}
      {ends}
    </Opening>
  );
}

interface OneOfProps<V extends string> {
  name: string;
  value: V;
  options: readonly Option[];
  onChoose: (value: V) => void;
  /** What stands in its words to be filled. */
  fill?: (words: string) => string;
}

/** One of the choices the server names, in the words that stand in a sentence. */
export function OneOf<V extends string>({
  name,
  value,
  options,
  onChoose,
  fill = (words) => words,
}: OneOfProps<V>) {
  const shown = options.find((each) => each.value === value)?.shown ?? value;
  return (
    <Choice
      name={name}
      value={value}
      shown={fill(shown)}
      options={options.map((each) => ({ value: each.value, label: fill(each.label) }))}
      onChoose={(chosen) => onChoose(chosen as V)}
    />
  );
}
