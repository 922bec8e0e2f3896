import { useState } from "react";
import { useCasesFound } from "../../api/beside";
import { useSettled } from "../../hooks/use-settled";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { t } from "../../texts";

const MOST_SHOWN = 8;

/** Finds another case to pin. */
export function AddCase({ taken, onAdd }: { taken: string[]; onAdd: (id: string) => void }) {
  const [typed, setTyped] = useState("");
  const [open, setOpen] = useState(false);
  const found = useCasesFound(useSettled(typed.trim(), 150), open);
  const cases = (found.data?.items ?? [])
    .filter((each) => !taken.includes(each.id))
    .slice(0, MOST_SHOWN);
  if (!open) return <Button onClick={() => setOpen(true)}>{t("Pin another case")}</Button>;
  return (
    <div className="max-w-md rounded border border-rule bg-sheet p-3">
      <Field
        autoFocus
        type="search"
        name={t("Find a case to pin")}
        placeholder={t("Find by name, amount, note or #tag")}
        value={typed}
        leaves={() => setOpen(false)}
        className="w-full"
        onType={setTyped}
      />
      <ul aria-label={t("Cases to pin")} className="mt-2">
        {cases.map((each) => (
          <li key={each.id}>
            <Button
              look="bare"
              className="block w-full rounded px-2 py-1 text-left hover:bg-paper"
              onClick={() => {
                setOpen(false);
                setTyped("");
                onAdd(each.id);
              }}
            >
              {each.called}
            </Button>
          </li>
        ))}
        {found.data && cases.length === 0 && (
          <li className="px-2 py-1 text-soft">{t("No other case holds that.")}</li>
        )}
      </ul>
    </div>
  );
}
