import type { ReactNode } from "react";

interface Props {
  value: string;
  options: readonly { value: string; label: string }[];
  onChoose: (value: string) => void;
  /** Words that belong to it, or what it is called where none stand with it. */
  label?: ReactNode;
  name?: string;
  className?: string;
  labelClass?: string;
}

/** One of several, of which the one chosen is seen. */
export function Select({
  value,
  options,
  onChoose,
  label,
  name,
  className = "",
  labelClass = "flex items-baseline gap-2",
}: Props) {
  const select = (
    <select
      aria-label={name}
      value={value}
      className={`rounded border border-rule-strong bg-sheet max-w-full px-2 py-1 ${className}`.trim()}
      onChange={(event) => onChoose(event.target.value)}
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  );
  if (label === undefined) return select;
  return (
    <label className={labelClass}>
      <span className="text-soft">{label}</span> {select}
    </label>
  );
}
