import type { ComponentProps } from "react";

/** How a button looks: what one came for, something else to do, words in a line, a mark. */
const LOOKS = {
  main: "rounded bg-ink px-4 py-1.5 font-semibold text-paper",
  plain: "rounded border border-rule-strong px-3 py-1",
  link: "text-choice underline disabled:text-soft disabled:no-underline",
  dotted: "text-choice underline decoration-dotted underline-offset-[0.3em]",
  quiet: "min-h-6 hover:text-ink",
  mark: "min-h-6 min-w-6 rounded px-1.5 font-sans text-soft hover:text-ink",
  bare: "",
} as const;

export type Look = keyof typeof LOOKS;

interface Props extends ComponentProps<"button"> {
  look?: Look;
}

/** Something to do. In a form it sends the form only where its `type` says so. */
export function Button({ look = "plain", className = "", type = "button", ...rest }: Props) {
  return <button type={type} className={`${LOOKS[look]} ${className}`.trim()} {...rest} />;
}
