import type { ComponentProps, KeyboardEvent, ReactNode } from "react";

const LOOKS = {
  box: "rounded border border-rule-strong bg-sheet px-2 py-1 placeholder:text-soft",
  large: "rounded border border-rule-strong bg-sheet px-3 py-2 placeholder:text-soft",
  bare: "bg-transparent placeholder:text-soft",
} as const;

interface Own {
  value: string;
  onType: (typed: string) => void;
  look?: keyof typeof LOOKS;
  /** Words that belong to it, before it or above it. */
  label?: ReactNode;
  above?: boolean;
  /** What it is called where no words stand with it. */
  name?: string;
  /** Words that follow it. */
  after?: ReactNode;
  labelClass?: string;
  /** Enter was pressed. */
  onEnter?: () => void;
  /** Esc leaves the field and keeps what stands in it; in place of that, what Esc does. */
  leaves?: boolean | (() => void);
}

type Props = Own & Omit<ComponentProps<"input">, keyof Own>;

function keyed({ onEnter, leaves }: Pick<Own, "onEnter" | "leaves">) {
  return (event: KeyboardEvent<HTMLInputElement | HTMLTextAreaElement>) => {
    if (event.key === "Enter" && onEnter) {
      event.preventDefault();
      onEnter();
    }
    if (event.key !== "Escape" || !leaves) return;
    if (leaves === true) event.currentTarget.blur();
    else {
      event.stopPropagation();
      leaves();
    }
  };
}

function Labelled({
  label,
  above,
  after,
  labelClass,
  children,
}: Partial<Record<"label" | "after", ReactNode>> & {
  above: boolean;
  labelClass: string | undefined;
  children: ReactNode;
}) {
  if (label === undefined) return children;
  return (
    <label className={`${above ? "block" : ""} ${labelClass ?? ""}`.trim()}>
      {label}
      {above ? "" : " "}
      {children}
      {after !== undefined && <> {after}</>}
    </label>
  );
}

/** A line to type in. */
export function Field({
  value,
  onType,
  look = "box",
  label,
  above = false,
  name,
  after,
  labelClass,
  onEnter,
  leaves = false,
  className = "",
  ...rest
}: Props) {
  return (
    <Labelled {...{ label, above, after, labelClass }}>
      <input
        aria-label={name}
        value={value}
        className={`${LOOKS[look]} ${className}`.trim()}
        onChange={(event) => onType(event.target.value)}
        onKeyDown={keyed({ ...(onEnter && { onEnter }), leaves })}
        {...rest}
      />
    </Labelled>
  );
}

type AreaProps = Omit<Own, "after" | "onEnter"> & Omit<ComponentProps<"textarea">, keyof Own>;

/** Several lines to type in, or to paste a table into. */
export function Area({
  value,
  onType,
  look = "box",
  label,
  above = true,
  name,
  labelClass,
  leaves = false,
  className = "",
  ...rest
}: AreaProps) {
  return (
    <Labelled {...{ label, above, labelClass }}>
      <textarea
        aria-label={name}
        value={value}
        className={`${LOOKS[look]} ${className}`.trim()}
        onChange={(event) => onType(event.target.value)}
        onKeyDown={keyed({ leaves })}
        {...rest}
      />
    </Labelled>
  );
}

interface CheckProps {
  label: ReactNode;
  checked: boolean;
  onChoose: (checked: boolean) => void;
  /** One of several of this name. */
  oneOf?: string;
  className?: string;
}

/** A choice that is made or not; of several of one name only one is. */
export function Check({ label, checked, onChoose, oneOf, className = "" }: CheckProps) {
  return (
    <label className={`flex items-baseline gap-1.5 ${className}`}>
      <input
        type={oneOf === undefined ? "checkbox" : "radio"}
        name={oneOf}
        checked={checked}
        onChange={(event) => onChoose(event.target.checked)}
      />
      {label}
    </label>
  );
}
