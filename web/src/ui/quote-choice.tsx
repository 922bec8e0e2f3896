import { useState, type ReactNode } from "react";
import { usePresets } from "../api/habits";
import type { Quoting } from "../api/types";
import { useDesk } from "../hooks/use-desk";
import { Choice } from "./choice";
import { Hint } from "./hint";
import { Presets } from "./presets";
import { quoteChosen, quoteOptions, quoteValue, quoteWords, type Quoted } from "./quoting";
import { t } from "../texts";

const MANAGE = "manage";

interface Props {
  quote: Quoted;
  /** The words that stand there, where they are not those of the style. */
  shown?: string | undefined;
  ends?: ReactNode;
  /** What it is called where it is spoken. */
  name?: string;
  onChoose: (quoting: Quoting) => void;
}

/** The words that say how a percent is quoted; they open into every other style. */
export function QuoteChoice({ quote, shown, ends, name = t("Quoted"), onChoose }: Props) {
  const { words } = useDesk();
  const presets = usePresets();
  const [open, setOpen] = useState(false);
  return (
    <>
      <Hint of={quote.quoted === "nominal" ? ["nominal", "compounding"] : [quote.quoted]}>
        <Choice
          name={name}
          value={quoteValue(quote, words)}
          shown={shown ?? quoteWords(quote, words).before}
          ends={ends}
          options={[
            ...quoteOptions(quote, presets, words),
            { value: MANAGE, label: t("Keep this as a habit, or change them …") },
          ]}
          onChoose={(value) =>
            value === MANAGE ? setOpen(true) : onChoose(quoteChosen(value, quote, presets, words))
          }
        />
      </Hint>
      <Presets quote={quote} presets={presets} open={open} onOpen={setOpen} />
    </>
  );
}
