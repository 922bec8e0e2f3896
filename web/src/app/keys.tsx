import { Dialog } from "radix-ui";
import { useFocusBack } from "../hooks/use-focus-back";
import { useSingleKeys } from "../hooks/use-keys";
import { Button } from "../ui/button";
import { Check } from "../ui/field";

const EVERYWHERE = [
  ["c", "the list of cases"],
  ["q", "rates: a quote on every footing"],
  ["g", "tables of loans"],
  ["?", "the guide: what analysts come for, and every word"],
  ["n", "a new case"],
  ["t", "light or dark"],
  ["h", "this list of keys"],
] as const;

const ON_THE_LIST = [
  ["i", "say a loan in a line"],
  ["p", "paste days and amounts: every rate that fits"],
  ["f", "find a case"],
  ["↑ ↓", "from case to case; Enter opens it"],
  ["Space", "picks a case, with Shift all from the last; Ctrl A all that are listed"],
  ["v", "those picked side by side"],
  ["k", "tags for those picked"],
  ["e", "those picked as a file"],
  ["Del", "those picked into the bin, from where they come back"],
  ["Esc", "picks none"],
] as const;

const ON_A_CASE = [
  ["i", "say the loan in a line, while it is blank"],
  ["a", "the amount lent"],
  ["r", "the rate"],
  ["m", "how many payments"],
  ["p", "the payment"],
  ["b", "the balance at the end"],
  ["v", "how often it is paid: what it could be; a letter goes to a word, Enter takes it"],
  ["u", "how the payment is rounded"],
  ["f", "its files; so side by side, at a table, at a list of quotes"],
  [
    "l",
    "the line; ← → move its cursor, Page keys by a year, Home and End to its ends; with Shift a stretch",
  ],
  ["o", "ask what is owed at a moment"],
  ["x", "ask what a stretch adds up to"],
  ["j", "go to a payment or a day in the schedule"],
  ["s", "the schedule; Enter folds a year"],
  ["w", "the working, and its proof"],
  ["e", "the history: what it said earlier"],
  ["y", "what moves it"],
  ["+", "paying more than is due"],
  [".", "settled early"],
  ["z", "the trail: every answer found in it"],
  ["k", "copies the answer as a number"],
  ["d", "copies the answer as a sentence"],
  ["Ctrl Z", "takes the last change back, outside a field; with Shift makes it again"],
] as const;

const IN_A_FIGURE = [
  ["?", "makes this figure the one to find; the one found so far stays as found"],
  ["Enter", "the next figure; with Shift the one before"],
  ["Esc", "leaves the field and keeps what stands in it"],
  ["Tab", "the next figure or choice"],
] as const;

const ON_RATES = [
  ["v", "quotes side by side"],
  ["a", "adds a list of quotes; in a list a quote"],
] as const;

const AT_A_TABLE = [
  ["p", "paste a table, where tables are listed"],
  ["s", "solve its rows, once its columns are matched"],
  ["Ctrl Enter", "in an area of text: takes what stands there"],
] as const;

function Listed({ title, keys }: { title: string; keys: readonly (readonly [string, string])[] }) {
  return (
    <section className="mt-4">
      <h3 className="text-sm font-semibold text-soft">{title}</h3>
      <dl className="mt-1 grid grid-cols-[4rem_1fr] gap-y-1">
        {keys.map(([key, does]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded border border-rule-strong px-1.5 font-sans text-sm">
                {key}
              </kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** Every key there is, and whether single letters work. */
export function KeysSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const focusBack = useFocusBack();
  const [single, setSingle] = useSingleKeys();
  return (
    <Dialog.Root open={open} onOpenChange={onOpen} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          {...focusBack}
          className="fixed top-16 right-4 z-40 max-h-[80vh] w-[min(28rem,calc(100vw-2rem))] overflow-auto rounded-lg border border-rule bg-sheet p-5 shadow-xl"
        >
          <Dialog.Title className="font-serif text-xl font-semibold">Keyboard</Dialog.Title>
          <Dialog.Description className="text-soft">
            Letters work wherever nothing is being typed; Esc leaves a field.
          </Dialog.Description>
          <Check
            label="Single letters are on"
            checked={single}
            onChoose={setSingle}
            className="mt-3"
          />
          <Listed title="Everywhere" keys={EVERYWHERE} />
          <Listed title="On the list of cases" keys={ON_THE_LIST} />
          <Listed title="On a case" keys={ON_A_CASE} />
          <Listed title="On rates" keys={ON_RATES} />
          <Listed title="At a table of loans" keys={AT_A_TABLE} />
          <Listed title="In a figure" keys={IN_A_FIGURE} />
          <Dialog.Close asChild>
            <Button className="mt-4">Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
