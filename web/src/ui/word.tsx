import { Hint } from "./hint";

interface Props {
  of: string;
  children: string;
}

/** A word that is explained where it stands; it can be reached by keys. */
export function Word({ of, children }: Props) {
  return (
    <Hint of={[of]}>
      <button
        type="button"
        className="min-h-6 cursor-help text-left decoration-dotted hover:underline"
      >
        {children}
      </button>
    </Hint>
  );
}
