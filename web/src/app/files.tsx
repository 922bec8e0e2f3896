import { useFileChoices, useSaveFiles } from "../api/how-files";
import type { HowFiles } from "../api/types";
import { useDesk } from "../hooks/use-desk";
import { Check } from "../ui/field";
import { Select } from "../ui/select";
import { Sheet } from "../ui/sheet";
import { Wrong } from "../ui/wrong";
import { t } from "../texts";

const NOT_CHOSEN = "";

/** How files are made: for which country, and what CSV is like. */
export function FilesSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const { me } = useDesk();
  const choices = useFileChoices().data;
  const save = useSaveFiles();
  const { files } = me;
  const set = (changed: Partial<HowFiles>) => save.mutate(changed);
  const browser = choices?.browser ?? t("A4, days such as 5 Mar 2027");
  return (
    <Sheet
      title={t("How files are made")}
      about={t("Every file you take out is made so.")}
      open={open}
      onOpen={onOpen}
    >
      {choices && (
        <>
          <h3 className="mt-5 font-serif text-lg">{t("Paper and days")}</h3>
          <p className="text-soft">
            {t(
              "PDFs and workbooks are made for the paper of a country, days in workbooks are written as there.",
            )}
          </p>
          <Select
            label={t("Country")}
            value={files.country ?? NOT_CHOSEN}
            options={[
              { value: NOT_CHOSEN, label: t("as the browser says ({browser})", { browser }) },
              ...choices.countries,
            ]}
            className="mt-2 w-full"
            onChoose={(country) => set({ country: country || null })}
          />
          <h3 className="mt-6 font-serif text-lg">{t("CSV")}</h3>
          <div className="mt-1 space-y-2">
            <Select
              label={t("Between cells stands")}
              value={files.separator}
              options={choices.separators}
              onChoose={(value) => set({ separator: value as HowFiles["separator"] })}
            />
            <Select
              label={t("Before decimals stands")}
              value={files.decimal}
              options={choices.decimals}
              onChoose={(value) => set({ decimal: value as HowFiles["decimal"] })}
            />
            <Check
              label={t("It begins with the mark of UTF-8, by which office programs know it")}
              checked={files.bom}
              onChoose={(bom) => set({ bom })}
            />
          </div>
        </>
      )}
      <Wrong error={save.error} className="mt-3" />
    </Sheet>
  );
}
