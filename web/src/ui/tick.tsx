interface Props {
  /** What ticking it does. */
  name: string;
  checked: boolean;
  /** Some of what it stands for is ticked, not all. */
  some?: boolean;
  onTick: (checked: boolean, withShift: boolean) => void;
}

/** A box to tick something off in a list. */
export function Tick({ name, checked, some = false, onTick }: Props) {
  return (
    <input
      type="checkbox"
      aria-label={name}
      className="size-4.5"
      checked={checked}
      ref={(box) => {
        if (box) box.indeterminate = some;
      }}
      onClick={(event) => onTick(!checked, event.shiftKey)}
      readOnly
    />
  );
}
