import { useState } from "react";
import type { CaseListed } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { t } from "../../texts";

interface Props {
  cases: readonly CaseListed[];
  onAdd: (tag: string) => void;
  onTakeOff: (tag: string) => void;
  onClose: () => void;
}

/** A tag for all that are picked, and those that some of them bear. */
export function TagPicked({ cases, onAdd, onTakeOff, onClose }: Props) {
  const { limits } = useDesk().words;
  const [typed, setTyped] = useState("");
  const borne = [...new Set(cases.flatMap((each) => each.tags))].sort();
  return (
    <div className="mt-2 flex flex-wrap items-center gap-1.5 text-sm">
      <Field
        autoFocus
        name={t("Tag for those picked")}
        placeholder={t("tag, then Enter")}
        value={typed}
        maxLength={limits.tag}
        className="w-40"
        onType={setTyped}
        onEnter={() => {
          const tag = typed.trim().replace(/^#/, "");
          if (tag) onAdd(tag);
          setTyped("");
        }}
        leaves={onClose}
      />
      {borne.map((tag) => (
        <span key={tag} className="rounded-full border border-rule bg-paper py-0.5 pr-1 pl-2.5">
          {tag}
          <Button
            look="mark"
            aria-label={t("Take the tag {tag} off those picked", { tag })}
            onClick={() => onTakeOff(tag)}
          >
            ×
          </Button>
        </span>
      ))}
    </div>
  );
}
