import { useDesk } from "../../hooks/use-desk";
import { Field } from "../../ui/field";
import { Select } from "../../ui/select";
import { t } from "../../texts";

interface Props {
  label: string;
  varied: { path: string; typed: string } | undefined;
  /** The values that are used where none are typed. */
  used: string | undefined;
  options: readonly { value: string; label: string }[];
  onVary: (path: string, typed: string) => void;
}

/** One figure to vary: which, and over what. */
export function Vary({ label, varied, used, options, onVary }: Props) {
  const { limits } = useDesk().words;
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <Select
        name={label}
        value={varied?.path ?? ""}
        options={options}
        onChoose={(path) => onVary(path, "")}
      />
      {varied?.path && (
        <span className="flex min-w-0 grow items-baseline gap-2 text-soft">
          {t("over")}
          <Field
            name={t("Values of the {label}", { label: label.toLowerCase() })}
            value={varied.typed}
            placeholder={used ?? t("5.5 to 7 by 0.125")}
            maxLength={limits.asked}
            className="w-full max-w-sm text-ink"
            onType={(typed) => onVary(varied.path, typed)}
          />
        </span>
      )}
    </div>
  );
}
