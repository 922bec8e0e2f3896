import { useState } from "react";
import { Refused } from "../../api/client";
import {
  useDeleteTemplate,
  useKeepTemplate,
  useShareTemplate,
  useTemplates,
} from "../../api/table-templates";
import type { Defaults, TableOpened, TemplateFitted } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Check, Field } from "../../ui/field";
import { Sheet } from "../../ui/sheet";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

interface Props {
  table: TableOpened;
  /** How the table is matched now. */
  matched: { columns: TableOpened["columns"]; defaults: Defaults };
  onTake: (template: TemplateFitted) => void;
}

/** Matches kept by a name: one is taken, or this one is kept. */
export function Templates({ table, matched, onTake }: Props) {
  const [open, setOpen] = useState(false);
  const templates = useTemplates(table.id);
  const take = (template: TemplateFitted) => {
    onTake(template);
    setOpen(false);
  };
  return (
    <>
      <Button look="link" onClick={() => setOpen(true)}>
        {t("Templates")}
      </Button>
      <Sheet
        title={t("Templates")}
        about={t(
          "A match kept by a name: which columns are which figures, and what holds where no column says so. A file that has all its columns is matched by it when it is opened.",
        )}
        open={open}
        onOpen={setOpen}
        asks
      >
        <Keep table={table} matched={matched} />
        <h3 className="mt-6 font-serif text-lg">{t("Kept")}</h3>
        <Wrong error={templates.error} />
        {templates.data?.length === 0 && <p className="text-soft">{t("There are none yet.")}</p>}
        <ul aria-label={t("Templates kept")} className="divide-y divide-rule">
          {templates.data?.map((each) => (
            <Kept key={each.id} template={each} onTake={() => take(each)} />
          ))}
        </ul>
      </Sheet>
    </>
  );
}

function Keep({ table, matched }: Omit<Props, "onTake">) {
  const { words } = useDesk();
  const [name, setName] = useState("");
  const [shared, setShared] = useState(false);
  const keep = useKeepTemplate(table.id);
  const errors = keep.error instanceof Refused ? keep.error.errors : [];
  const wrong = errors.find((error) => error.field === "name");
  return (
    <form
      className="mt-4 space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate({ name, shared, ...matched }, { onSuccess: () => setName("") });
      }}
    >
      <Field
        above
        look="large"
        label={t("Keep this match as")}
        placeholder={t("Tape of the harbour branch")}
        maxLength={words.limits.template_name}
        value={name}
        className="mt-1 w-full"
        onType={setName}
      />
      {wrong && <Wrong error={wrong} className="text-sm" />}
      <Check label={t("Everyone on this desk may take it")} checked={shared} onChoose={setShared} />
      {!wrong && <Wrong error={keep.error} />}
      <p className="flex items-baseline gap-3">
        <Button look="main" type="submit" disabled={keep.isPending}>
          {t("Keep")}
        </Button>
        <span role="status">{keep.data && t("Kept as “{name}”.", { name: keep.data.name })}</span>
      </p>
    </form>
  );
}

function Kept({ template, onTake }: { template: TemplateFitted; onTake: () => void }) {
  const { words } = useDesk();
  const share = useShareTemplate();
  const remove = useDeleteTemplate();
  const { id, name, mine, shared, owner, missing } = template;
  return (
    <li className="py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span className="font-semibold break-words">{name}</span>
        <span className="flex items-baseline gap-4">
          <a className="text-choice underline" href={`/api/v1/table-templates/${id}/file`} download>
            {t("File")}
          </a>
          {mine && (
            <Button
              look="link"
              aria-label={t("Delete {name}", { name })}
              disabled={remove.isPending}
              onClick={() => remove.mutate(id)}
            >
              {t("Delete")}
            </Button>
          )}
          <Button aria-label={t("Take {name}", { name })} onClick={onTake}>
            {t("Take")}
          </Button>
        </span>
      </div>
      <p className="text-sm text-soft">
        {mine ? "" : `${t("kept by {owner} ·", { owner })} `}
        {Object.entries(template.columns)
          .map(([figure, column]) => `${words.table.fields[figure] ?? figure}: ${column}`)
          .join(" · ")}
      </p>
      {missing.length > 0 && (
        <p className="text-sm">
          {t("Not in this file: {missing}", {
            missing: missing.map((each) => `“${each}”`).join(", "),
          })}
        </p>
      )}
      {mine && (
        <Check
          label={t("Everyone on this desk may take it")}
          checked={share.isPending ? share.variables.shared : shared}
          onChoose={(on) => share.mutate({ id, name, shared: on })}
        />
      )}
      <Wrong error={share.error ?? remove.error} className="text-sm" />
    </li>
  );
}
