import { Dialog } from "radix-ui";
import { useFocusBack } from "../hooks/use-focus-back";
import { useSingleKeys } from "../hooks/use-keys";
import { Button } from "../ui/button";
import { Check } from "../ui/field";
import { t } from "../texts";

const EVERYWHERE = [
  ["c", t("the list of cases")],
  ["q", t("rates: a quote on every footing")],
  ["g", t("tables of loans")],
  ["?", t("the guide: what analysts come for, and every word")],
  ["n", t("a new case")],
  ["t", t("light or dark")],
  ["h", t("this list of keys")],
] as const;

const ON_THE_LIST = [
  ["i", t("say a loan in a line")],
  ["p", t("paste days and amounts: every rate that fits")],
  ["f", t("find a case")],
  ["↑ ↓", t("from case to case; Enter opens it")],
  ["Space", t("picks a case, with Shift all from the last; Ctrl A all that are listed")],
  ["v", t("those picked side by side")],
  ["k", t("tags for those picked")],
  ["e", t("those picked as a file")],
  ["Del", t("those picked into the bin, from where they come back")],
  ["Esc", t("picks none")],
] as const;

const ON_A_CASE = [
  ["i", t("say the loan in a line, while it is blank")],
  ["a", t("the amount lent")],
  ["r", t("the rate")],
  ["m", t("how many payments")],
  ["p", t("the payment")],
  ["b", t("the balance at the end")],
  ["v", t("how often it is paid: what it could be; a letter goes to a word, Enter takes it")],
  [",", t("how it is repaid: level, equal principal or otherwise")],
  ["u", t("how the payment is rounded")],
  ["f", t("its files; so side by side, at a table, at a list of quotes")],
  [
    "l",
    t(
      "the line; ← → move its cursor, Page keys by a year, Home and End to its ends; with Shift a stretch",
    ),
  ],
  ["o", t("ask what is owed at a moment")],
  ["x", t("ask what a stretch adds up to")],
  ["j", t("go to a payment or a day in the schedule")],
  ["s", t("the schedule; Enter folds a year")],
  ["w", t("the working, and its proof")],
  ["e", t("the history: what it said earlier")],
  ["y", t("what moves it")],
  ["+", t("paying more than is due")],
  [".", t("settled early")],
  ["z", t("the trail: every answer found in it")],
  [";", t("its review: put up, judged, commented on")],
  ["k", t("copies the answer as a number")],
  ["d", t("copies the answer as a sentence")],
  ["Ctrl Z", t("takes the last change back, outside a field; with Shift makes it again")],
] as const;

const IN_A_FIGURE = [
  ["?", t("makes this figure the one to find; the one found so far stays as found")],
  ["Enter", t("the next figure; with Shift the one before")],
  ["Esc", t("leaves the field and keeps what stands in it")],
  ["Tab", t("the next figure or choice")],
] as const;

const ON_RATES = [
  ["v", t("quotes side by side")],
  ["a", t("adds a list of quotes; in a list a quote")],
] as const;

const AT_A_TABLE = [
  ["p", t("paste a table, where tables are listed")],
  ["s", t("solve its rows, once its columns are matched")],
  ["Ctrl Enter", t("in an area of text: takes what stands there")],
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
          <Dialog.Title className="font-serif text-xl font-semibold">{t("Keyboard")}</Dialog.Title>
          <Dialog.Description className="text-soft">
            {t("Letters work wherever nothing is being typed; Esc leaves a field.")}
          </Dialog.Description>
          <Check
            label={t("Single letters are on")}
            checked={single}
            onChoose={setSingle}
            className="mt-3"
          />
          <Listed title={t("Everywhere")} keys={EVERYWHERE} />
          <Listed title={t("On the list of cases")} keys={ON_THE_LIST} />
          <Listed title={t("On a case")} keys={ON_A_CASE} />
          <Listed title={t("On rates")} keys={ON_RATES} />
          <Listed title={t("At a table of loans")} keys={AT_A_TABLE} />
          <Listed title={t("In a figure")} keys={IN_A_FIGURE} />
          <Dialog.Close asChild>
            <Button className="mt-4">{t("Close")}</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
