import { Button } from "./button";

interface Props<V extends string> {
  name: string;
  chosen: V;
  /** What can be chosen, and what each is called. */
  options: readonly (readonly [V, string])[];
  onChoose: (value: V) => void;
  className?: string;
}

/** One of several, all of them in sight. */
export function OneInSight<V extends string>({
  name,
  chosen,
  options,
  onChoose,
  className = "mt-3",
}: Props<V>) {
  return (
    <div role="group" aria-label={name} className={`flex flex-wrap gap-x-4 ${className}`.trim()}>
      {options.map(([value, title]) => (
        <Button
          key={value}
          look="bare"
          aria-pressed={value === chosen}
          className={value === chosen ? "font-semibold underline" : "text-choice hover:underline"}
          onClick={() => onChoose(value)}
        >
          {title}
        </Button>
      ))}
    </div>
  );
}
