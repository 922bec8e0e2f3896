import { useState } from "react";
import { useSavePresets } from "../api/habits";
import type { Preset, Quoting, Words } from "../api/types";
import { useDesk } from "../hooks/use-desk";
import { Button } from "./button";
import { Field } from "./field";
import { isTimed, plainQuote, quoteWords, styleOf, type Quoted } from "./quoting";
import { Sheet } from "./sheet";
import { Wrong } from "./wrong";
import { filled, t } from "../texts";

/** A way of quoting without a loan: what is compounded or paid as payments are has no words of a
 *  period yet. */
function said(quoting: Quoting, words: Words): string {
  const style = styleOf(quoting, words);
  if (style.is_of_periods) return filled(style.said, { noun: t("payment period") });
  if (style.is_compounded && !quoting.compounding) {
    const asPaid = words.quotings.find((each) => each.quoted === style.name && !each.compounding);
    return filled(style.said, { compounded: asPaid?.label.split(", {")[0] ?? "" });
  }
  const { before, after } = quoteWords({ ...quoting, every: "month" }, words);
  return style.is_timed ? `${before} ${quoting.over}${after}` : before;
}

interface Props {
  quote: Quoted;
  presets: readonly Preset[];
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** The quoting habits: named, renamed, taken off; the one at hand can be added. */
export function Presets({ quote, presets, open, onOpen }: Props) {
  const { words } = useDesk();
  const [name, setName] = useState("");
  const keep = useSavePresets();
  const here = { ...plainQuote(quote), over: isTimed(quote, words) ? (quote.over ?? "") : "" };
  const add = () => {
    const named = name.trim();
    if (!named) return;
    setName("");
    keep.mutate([...presets.filter((each) => each.name !== named), { name: named, quoting: here }]);
  };
  return (
    <Sheet
      title={t("Quoting habits")}
      about={t(
        "Ways of quoting that have a name here. They stand on top wherever a style is chosen.",
      )}
      open={open}
      onOpen={onOpen}
    >
      <ul className="mt-4">
        {presets.map((preset, place) => (
          <Habit
            key={`${place} ${preset.name}`}
            preset={preset}
            onName={(named) =>
              keep.mutate(
                presets.map((each) => (each === preset ? { ...each, name: named } : each)),
              )
            }
            onTakeOff={() => keep.mutate(presets.filter((each) => each !== preset))}
          />
        ))}
      </ul>
      {presets.length === 0 && <p className="mt-2 text-soft">{t("None is kept.")}</p>}
      <form
        className="mt-4 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <Field
          above
          label={t("Keep “{here}” as", { here: said(here, words) })}
          labelClass="grow text-sm text-soft"
          value={name}
          maxLength={words.limits.preset_name}
          placeholder={t("a name, such as Our fixed: half-yearly")}
          className="mt-0.5 block w-full text-base text-ink"
          onType={setName}
        />
        <Button type="submit">{t("Keep")}</Button>
      </form>
      <Wrong error={keep.error} />
    </Sheet>
  );
}

function Habit({
  preset,
  onName,
  onTakeOff,
}: {
  preset: Preset;
  onName: (name: string) => void;
  onTakeOff: () => void;
}) {
  const { words } = useDesk();
  const [typed, setTyped] = useState(preset.name);
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 border-b border-rule py-1.5">
      <Field
        look="bare"
        name={t("Name of the habit {name}", { name: preset.name })}
        value={typed}
        maxLength={words.limits.preset_name}
        className="min-w-0 font-semibold"
        onType={setTyped}
        onBlur={() => {
          const named = typed.trim();
          if (named && named !== preset.name) onName(named);
        }}
      />
      <Button
        look="link"
        aria-label={t("Take off the habit {name}", { name: preset.name })}
        onClick={onTakeOff}
      >
        {t("Take off")}
      </Button>
      <span className="col-span-2 text-[0.95rem] text-soft">{said(preset.quoting, words)}</span>
    </li>
  );
}
