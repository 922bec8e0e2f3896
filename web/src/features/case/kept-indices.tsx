import { useDeleteIndex, useIndices, useKeepIndex } from "../../api/indices";
import type { Statement } from "../../api/types";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { useDays } from "../../ui/moment";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

interface Props {
  floating: NonNullable<Statement["floating"]>;
  marks: Statement["marks"];
  onTake: (index: string, fixings: string) => void;
}

/** Fixings taken from those kept on the desk, and kept there for other loans. */
export function KeptIndices({ floating, marks, onTake }: Props) {
  const { day } = useDays();
  const kept = useIndices(marks).data ?? [];
  const keep = useKeepIndex();
  const drop = useDeleteIndex();
  const own = kept.find(({ name, mine }) => mine && name === floating.index.trim());
  const same = kept.some(
    ({ name, fixings }) => name === floating.index.trim() && fixings === floating.fixings.trim(),
  );
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-4 font-sans text-[0.95rem] leading-normal">
      {kept.length > 0 && (
        <Choice
          name={t("Take fixings of")}
          value=""
          shown={t("take fixings kept on the desk")}
          options={kept.map(({ id, name, last_day }) => ({
            value: id,
            label: t("{name}, up to {day}", { name, day: day(last_day) }),
          }))}
          onChoose={(chosen) => {
            const index = kept.find(({ id }) => id === chosen);
            if (index) onTake(index.name, index.fixings);
          }}
        />
      )}
      {floating.fixings.trim() && floating.index.trim() && !same && (
        <Button
          look="dotted"
          onClick={() =>
            keep.mutate({ name: floating.index.trim(), fixings: floating.fixings, marks })
          }
        >
          {t("Keep these on the desk")}
        </Button>
      )}
      {own && same && (
        <Button look="dotted" onClick={() => drop.mutate(own.id)}>
          {t("No longer keep these")}
        </Button>
      )}
      <Wrong error={keep.error ?? drop.error} />
    </div>
  );
}
