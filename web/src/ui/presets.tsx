import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, client, type Preset, type Quoting } from "../api/client";
import { Choice } from "./choice";
import { quoteChosen, quoteOptions, quoteValue, quoteWords, isTimed, type Quoted } from "./choices";
import { useDesk } from "../hooks/use-desk";
import { Sheet } from "./sheet";
import { answerWith } from "../hooks/answer-with";

const MANAGE = "manage";
const NONE: readonly Preset[] = [];

/** The ways of quoting this analyst has named. */
export function usePresets(): readonly Preset[] {
  const presets = useQuery({
    queryKey: ["presets"],
    queryFn: () => ask(client.GET("/api/v1/presets")),
    staleTime: Infinity,
  });
  return presets.data ?? NONE;
}

interface Props {
  quote: Quoted;
  /** The words that stand there, where they are not those of the style. */
  shown?: string | undefined;
  /** What it is called where it is spoken. */
  name?: string;
  onChoose: (quoting: Quoting) => void;
}

/** The words that say how a percent is quoted; they open into every other style. */
export function QuoteChoice({ quote, shown, name = "Quoted", onChoose }: Props) {
  const { words } = useDesk();
  const presets = usePresets();
  const [open, setOpen] = useState(false);
  return (
    <>
      <Choice
        name={name}
        value={quoteValue(quote)}
        shown={shown ?? quoteWords(quote, words.periods)}
        options={[
          ...quoteOptions(quote, words.periods, presets),
          { value: MANAGE, label: "Keep this as a habit, or change them …" },
        ]}
        onChoose={(value) =>
          value === MANAGE ? setOpen(true) : onChoose(quoteChosen(value, quote, presets))
        }
      />
      <Presets quote={quote} presets={presets} open={open} onOpen={setOpen} />
    </>
  );
}

function said(quoting: Quoting, words: ReturnType<typeof useDesk>["words"]): string {
  const own =
    quoting.quoted === "nominal" && !quoting.compounding
      ? "nominal a year, compounded as it is paid"
      : quoteWords({ ...quoting, every: "month" }, words.periods);
  if (quoting.quoted === "periodic") return "for each payment period";
  return isTimed(quoting) ? `${own} ${quoting.over}` : own;
}

interface PresetsProps {
  quote: Quoted;
  presets: readonly Preset[];
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** The quoting habits: named, renamed, taken off; the one at hand can be added. */
function Presets({ quote, presets, open, onOpen }: PresetsProps) {
  const { words } = useDesk();
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const keep = useMutation({
    mutationFn: (kept: Preset[]) => ask(client.PUT("/api/v1/presets", { body: { presets: kept } })),
    onSuccess: (kept) => answerWith(queries, ["presets"], kept),
  });
  const { quoted, compounding, over, year_days } = quote;
  const here: Quoting = {
    quoted,
    compounding: compounding ?? null,
    over: isTimed(quote) ? (over ?? "") : "",
    year_days: year_days ?? 365,
  };
  const add = () => {
    const named = name.trim();
    if (!named) return;
    setName("");
    keep.mutate([...presets.filter((each) => each.name !== named), { name: named, quoting: here }]);
  };
  return (
    <Sheet
      title="Quoting habits"
      about="Ways of quoting that have a name here. They stand on top wherever a style is chosen."
      open={open}
      onOpen={onOpen}
    >
      <ul className="mt-4">
        {presets.map((preset, place) => (
          <li
            key={`${place} ${preset.name}`}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 border-b border-rule py-1.5"
          >
            <input
              aria-label={`Name of the habit ${preset.name}`}
              defaultValue={preset.name}
              maxLength={60}
              className="min-w-0 bg-transparent font-semibold"
              onBlur={(event) => {
                const named = event.target.value.trim();
                if (named && named !== preset.name)
                  keep.mutate(
                    presets.map((each) => (each === preset ? { ...each, name: named } : each)),
                  );
              }}
            />
            <button
              className="text-choice underline"
              aria-label={`Take off the habit ${preset.name}`}
              onClick={() => keep.mutate(presets.filter((each) => each !== preset))}
            >
              Take off
            </button>
            <span className="col-span-2 text-[0.95rem] text-soft">
              {said(preset.quoting, words)}
            </span>
          </li>
        ))}
      </ul>
      {presets.length === 0 && <p className="mt-2 text-soft">None is kept.</p>}
      <form
        className="mt-4 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <label className="grow text-sm text-soft">
          Keep “{said(here, words)}” as
          <input
            value={name}
            maxLength={60}
            placeholder="a name, such as Our fixed: half-yearly"
            className="mt-0.5 block w-full rounded border border-rule-strong bg-sheet px-2.5 py-1.5 text-base text-ink placeholder:text-soft"
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <button className="rounded border border-rule-strong px-3 py-1.5">Keep</button>
      </form>
      {keep.error && (
        <p role="alert" className="mt-2 text-wrong">
          {keep.error.message}
        </p>
      )}
    </Sheet>
  );
}
