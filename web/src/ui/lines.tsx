import { useId, useState } from "react";

interface Props {
  /** The name of the entry, by which it can be found on the page. */
  name: string;
  label: string;
  text: string;
  placeholder: string;
  error: string | undefined;
  onType: (text: string) => void;
  /** It was left; whether something had been typed. */
  onBlur: (isEdited: boolean) => void;
}

/** A list typed or pasted, an entry on each line. */
export function Lines({ name, label, text, placeholder, error, onType, onBlur }: Props) {
  const [id, wrong] = [useId(), useId()];
  const [edited, setEdited] = useState(false);
  const shown = error !== undefined && (edited || text !== "");
  return (
    <div className="min-w-48 grow basis-48">
      <label htmlFor={id} className="text-sm text-soft">
        {label}
      </label>
      <textarea
        id={id}
        data-figure-list={name}
        value={text}
        rows={Math.min(6, Math.max(2, text.split("\n").length))}
        placeholder={placeholder}
        spellCheck={false}
        aria-invalid={shown ? true : undefined}
        aria-describedby={shown ? wrong : undefined}
        className="block w-full rounded border border-rule-strong bg-sheet px-2 py-1 font-mono text-sm"
        onChange={(event) => {
          setEdited(true);
          onType(event.target.value);
        }}
        onBlur={() => {
          setEdited(false);
          onBlur(edited);
        }}
      />
      {shown && (
        <p id={wrong} className="text-sm text-wrong">
          {error}
        </p>
      )}
    </div>
  );
}
