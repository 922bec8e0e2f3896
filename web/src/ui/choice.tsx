import { DropdownMenu } from "radix-ui";
import type { Option } from "../api/types";
import type { Choosable } from "./quoting";

interface Props {
  name: string;
  value: string;
  shown: string;
  /** What it could be instead, some of them under a heading. */
  options: readonly Choosable[];
  onChoose: (value: string) => void;
  className?: string;
}

/** Words with a dotted line under them that open into what they could be instead. */
export function Choice({ name, value, shown, options, onChoose, className = "" }: Props) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={`${name}: ${shown}`}
        className={`text-left leading-snug text-choice underline decoration-dotted decoration-1 underline-offset-[0.3em] hover:decoration-solid ${className}`}
      >
        {shown}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={6}
          collisionPadding={8}
          className="z-50 max-h-[min(22rem,var(--radix-dropdown-menu-content-available-height))] min-w-48 overflow-auto rounded-md border border-rule bg-sheet py-1 font-sans text-base text-ink shadow-xl"
        >
          <DropdownMenu.RadioGroup value={value} onValueChange={onChoose}>
            {options.map((option) => (
              <div key={option.value}>
                {option.under && (
                  <DropdownMenu.Label className="px-3 pt-2 pb-0.5 text-sm text-soft">
                    {option.under}
                  </DropdownMenu.Label>
                )}
                <DropdownMenu.RadioItem
                  value={option.value}
                  className="flex cursor-pointer items-center gap-2 px-3 py-1 outline-none data-highlighted:bg-paper data-[state=checked]:font-semibold"
                >
                  <span aria-hidden className="w-3 text-choice">
                    {option.value === value ? "✓" : ""}
                  </span>
                  {option.label}
                </DropdownMenu.RadioItem>
              </div>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
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
