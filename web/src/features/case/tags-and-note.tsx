import { useState } from "react";
import type { Content } from "../../api/client";

interface Props {
  content: Content;
  onChange: (change: Partial<Pick<Content, "note" | "tags">>) => void;
}

/** Tags under the name: typed with Enter or a comma, taken off with their cross. */
export function Tags({ content, onChange }: Props) {
  const [typed, setTyped] = useState("");
  const tags = content.tags ?? [];
  const add = () => {
    const tag = typed.trim().toLowerCase().replace(/^#/, "").slice(0, 40);
    setTyped("");
    if (tag && !tags.includes(tag) && tags.length < 20) onChange({ tags: [...tags, tag].sort() });
  };
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-sm">
      {tags.map((tag) => (
        <span key={tag} className="rounded-full border border-rule bg-sheet py-0.5 pr-1 pl-2.5">
          {tag}
          <button
            aria-label={`Take off the tag ${tag}`}
            className="ml-1 rounded-full px-1 text-soft hover:text-ink"
            onClick={() => onChange({ tags: tags.filter((each) => each !== tag) })}
          >
            ×
          </button>
        </span>
      ))}
      <input
        aria-label="Add a tag"
        placeholder="add a tag"
        value={typed}
        className="figure-field min-w-20 bg-transparent placeholder:text-soft"
        onChange={(event) => setTyped(event.target.value)}
        onBlur={add}
        onKeyDown={(event) => {
          if (event.key === "Enter" || event.key === ",") {
            event.preventDefault();
            add();
          }
          if (event.key === "Escape") {
            setTyped("");
            event.currentTarget.blur();
          }
        }}
      />
    </div>
  );
}

/** The note on a case, in plain text. */
export function Note({ content, onChange }: Props) {
  return (
    <label className="mt-4 block text-sm text-soft">
      Note
      <textarea
        value={content.note}
        maxLength={20_000}
        rows={1}
        placeholder="What the committee should know"
        className="field-sizing-content mt-0.5 block max-h-60 min-h-9 w-full resize-none rounded border border-rule bg-sheet px-2.5 py-1.5 text-base text-ink placeholder:text-soft"
        onChange={(event) => onChange({ note: event.target.value })}
        onKeyDown={(event) => {
          if (event.key === "Escape") event.currentTarget.blur();
        }}
      />
    </label>
  );
}
