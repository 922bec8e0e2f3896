import { useFileChoices, useSaveFiles } from "../api/how-files";
import type { HowFiles } from "../api/types";
import { useDesk } from "../hooks/use-desk";
import { Check } from "../ui/field";
import { Select } from "../ui/select";
import { Sheet } from "../ui/sheet";
import { Wrong } from "../ui/wrong";

const NOT_CHOSEN = "";

/** How files are made: for which country, and what CSV is like. */
export function FilesSheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const { me } = useDesk();
  const choices = useFileChoices().data;
  const save = useSaveFiles();
  const { files } = me;
  const set = (changed: Partial<HowFiles>) => save.mutate(changed);
  const browser = choices?.browser ?? "A4, days such as 5 Mar 2027";
  return (
    <Sheet
      title="How files are made"
      about="Every file you take out is made so."
      open={open}
      onOpen={onOpen}
    >
      {choices && (
        <>
          <h3 className="mt-5 font-serif text-lg">Paper and days</h3>
          <p className="text-soft">
            PDFs and workbooks are made for the paper of a country, days in workbooks are written as
            there.
          </p>
          <Select
            label="Country"
            value={files.country ?? NOT_CHOSEN}
            options={[
              { value: NOT_CHOSEN, label: `as the browser says (${browser})` },
              ...choices.countries,
            ]}
            className="mt-2 w-full"
            onChoose={(country) => set({ country: country || null })}
          />
          <h3 className="mt-6 font-serif text-lg">CSV</h3>
          <div className="mt-1 space-y-2">
            <Select
              label="Between cells stands"
              value={files.separator}
              options={choices.separators}
              onChoose={(value) => set({ separator: value as HowFiles["separator"] })}
            />
            <Select
              label="Before decimals stands"
              value={files.decimal}
              options={choices.decimals}
              onChoose={(value) => set({ decimal: value as HowFiles["decimal"] })}
            />
            <Check
              label="It begins with the mark of UTF-8, by which office programs know it"
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
