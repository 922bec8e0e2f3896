import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";

export interface Key {
  key: string;
  run: () => void;
}

const KEY = "zephyrant-single-keys";

function inField(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || target.closest("input, textarea, select, [role=menu]") !== null)
  );
}

/** Single letters that work wherever nothing is being typed. They can be turned off. */
export function useKeys(keys: readonly Key[]): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.altKey || event.metaKey || inField(event.target)) return;
      if (localStorage.getItem(KEY) === "off" && event.key !== "Escape") return;
      const found = keys.find((each) => each.key === event.key);
      if (!found) return;
      event.preventDefault();
      found.run();
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, [keys]);
}

const EVERYWHERE = [
  ["c", "the list of cases"],
  ["f", "find a case, on the list"],
  ["q", "rates: a quote on every footing"],
  ["g", "tables of loans"],
  ["n", "a new case"],
  ["t", "light or dark"],
  ["h", "this list of keys"],
] as const;

const ON_A_CASE = [
  ["a", "the amount lent"],
  ["r", "the rate"],
  ["m", "how many payments"],
  ["p", "the payment"],
  ["b", "the balance at the end"],
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
  ["z", "the trail: every answer found in it"],
  ["Ctrl Z", "takes the last change back, outside a field; with Shift makes it again"],
] as const;

const IN_A_FIGURE = [
  ["?", "makes this figure the one to find; the one found so far stays as found"],
  ["Enter", "the next figure; with Shift the one before"],
  ["Esc", "leaves the field and keeps what stands in it"],
  ["Tab", "the next figure or choice"],
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

export function KeysSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const [single, setSingle] = useState(() => localStorage.getItem(KEY) !== "off");
  return (
    <Dialog.Root open={open} onOpenChange={onOpen} modal={false}>
      <Dialog.Portal>
        <Dialog.Content className="fixed top-16 right-4 z-40 max-h-[80vh] w-[min(28rem,calc(100vw-2rem))] overflow-auto rounded-lg border border-rule bg-sheet p-5 shadow-xl">
          <Dialog.Title className="font-serif text-xl font-semibold">Keys</Dialog.Title>
          <Dialog.Description className="text-soft">
            Letters work wherever nothing is being typed; Esc leaves a field.
          </Dialog.Description>
          <label className="mt-3 flex items-center gap-2">
            <input
              type="checkbox"
              checked={single}
              onChange={(event) => {
                localStorage.setItem(KEY, event.target.checked ? "on" : "off");
                setSingle(event.target.checked);
              }}
            />
            Single letters are on
          </label>
          <Listed title="Everywhere" keys={EVERYWHERE} />
          <Listed title="On a case" keys={ON_A_CASE} />
          <Listed title="In a figure" keys={IN_A_FIGURE} />
          <Dialog.Close className="mt-4 rounded border border-rule-strong px-3 py-1">
            Close
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
