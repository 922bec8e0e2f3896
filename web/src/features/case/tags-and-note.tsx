import { useState } from "react";
import type { Content } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Area, Field } from "../../ui/field";
import { t } from "../../texts";

interface Props {
  content: Content;
  onChange: (change: Partial<Pick<Content, "note" | "tags">>) => void;
}

/** Tags under the name: typed with Enter or a comma, taken off with their cross. */
export function Tags({ content, onChange }: Props) {
  const { limits } = useDesk().words;
  const [typed, setTyped] = useState("");
  const tags = content.tags ?? [];
  const add = (text: string) => {
    const tag = text.trim().toLowerCase().replace(/^#/, "").slice(0, limits.tag);
    setTyped("");
    if (tag && !tags.includes(tag) && tags.length < limits.tags)
      onChange({ tags: [...tags, tag].sort() });
  };
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-sm">
      {tags.map((tag) => (
        <span key={tag} className="rounded-full border border-rule bg-sheet py-0.5 pr-1 pl-2.5">
          {tag}
          <Button
            look="mark"
            aria-label={t("Take off the tag {tag}", { tag })}
            onClick={() => onChange({ tags: tags.filter((each) => each !== tag) })}
          >
            ×
          </Button>
        </span>
      ))}
      <Field
        look="bare"
        name={t("Add a tag")}
        placeholder={t("add a tag")}
        value={typed}
        className="figure-field min-w-20"
        onType={(text) => {
          if (text.endsWith(",")) add(text.slice(0, -1));
          else setTyped(text);
        }}
        onBlur={() => add(typed)}
        onEnter={() => add(typed)}
        leaves={() => setTyped("")}
      />
    </div>
  );
}

/** The note on a case, in plain text. */
export function Note({ content, onChange }: Props) {
  const { limits } = useDesk().words;
  return (
    <Area
      name={t("Note")}
      look="bare"
      value={content.note ?? ""}
      maxLength={limits.note}
      rows={1}
      placeholder={t("add a note: what the committee should know")}
      leaves
      className="field-sizing-content max-h-60 min-w-60 grow basis-72 resize-none text-sm"
      onType={(note) => onChange({ note })}
    />
  );
}
