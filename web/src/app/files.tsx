import { useFileChoices, useSaveFiles } from "../api/how-files";
import type { HowFiles } from "../api/types";
import { useDesk } from "../hooks/use-desk";
import { Check } from "../ui/field";
import { useDays } from "../ui/moment";
import { Select } from "../ui/select";
import { Sheet } from "../ui/sheet";
import { Wrong } from "../ui/wrong";
import { t } from "../texts";

const NOT_CHOSEN = "";
const SAMPLE = "2027-03-05";

/** In which language all is said, how days are written, how files are made. */
export function FilesSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const { me } = useDesk();
  const choices = useFileChoices().data;
  const save = useSaveFiles();
  const { files } = me;
  const set = (changed: Partial<HowFiles>) => save.mutate(changed);
  const { day } = useDays();
  const browser = choices?.browser ?? t("no country: A4");
  return (
    <Sheet
      title={t("Country and files")}
      about={t(
        "Days are written so wherever you read them, and every file you take out is made so.",
      )}
      open={open}
      onOpen={onOpen}
    >
      {choices && (
        <>
          {choices.languages.length > 1 && (
            <Select
              label={t("Language")}
              value={files.language ?? NOT_CHOSEN}
              options={[
                { value: NOT_CHOSEN, label: t("as the browser says") },
                ...choices.languages,
              ]}
              className="mt-5 w-full"
              onChoose={(language) => set({ language: language || null })}
            />
          )}
          <h3 className="mt-5 font-serif text-lg">{t("Days and paper")}</h3>
          <p className="text-soft">
            {t(
              "Days stand as a country writes them, here {day}. PDFs and workbooks are made for its paper.",
              { day: day(SAMPLE) },
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
