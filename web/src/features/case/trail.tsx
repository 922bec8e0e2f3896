import { useState } from "react";
import { useNameTrailPoint, useTrail, useTrailPoint } from "../../api/beside";
import type { Pin, Statement, TrailTold } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { useDays } from "../../ui/moment";
import { Sheet } from "../../ui/sheet";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

interface Props {
  caseId: string;
  mayEdit: boolean;
  pins: Pin[];
  open: boolean;
  onOpen: (open: boolean) => void;
  flush: () => Promise<number | null>;
  /** When the case was last saved: the trail may have grown then. */
  saved: number | null;
  /** Puts what was given for an answer back into the case. */
  onBack: (statement: Statement) => void;
  onPins: (pins: Pin[]) => void;
}

/** Every answer found in the case, with what was given; any of them can be gone back to. */
export function Trail(props: Props) {
  const { caseId, mayEdit, pins, open, onOpen, flush, saved, onBack, onPins } = props;
  const { marks } = useDesk();
  const list = useTrail(caseId, marks.name, saved, open, flush);
  const back = useTrailPoint(caseId, onBack);
  const naming = useNameTrailPoint(caseId);
  return (
    <Sheet
      title={t("Trail")}
      about={t(
        "Every answer found in this case, with what was given for it. Going back loses nothing.",
      )}
      open={open}
      onOpen={onOpen}
    >
      <Wrong error={list.error ?? back.error ?? naming.error} className="mt-3" />
      {list.data?.length === 0 && (
        <p className="mt-4 text-soft">
          {t("Nothing has been found yet. Every answer will be listed here.")}
        </p>
      )}
      <ol aria-label={t("Trail")} className="mt-4 space-y-4">
        {list.data?.map((point) => (
          <li
            key={point.number}
            className={`border-l-2 pl-4 ${point.stands ? "border-choice" : "border-rule"}`}
          >
            <PointTold point={point} />
            {mayEdit && (
              <p className="flex flex-wrap gap-4 text-sm">
                {!point.stands && (
                  <Button
                    look="link"
                    disabled={back.isPending}
                    onClick={() => back.mutate(point.number)}
                  >
                    {t("Go back to it")}
                  </Button>
                )}
                <Name
                  point={point}
                  onName={(name) => naming.mutate({ number: point.number, name })}
                />
                <Pinned caseId={caseId} number={point.number} pins={pins} onPins={onPins} />
              </p>
            )}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}

function PointTold({ point }: { point: TrailTold }) {
  const { moment } = useDays();
  return (
    <>
      <p className="text-sm text-soft">
        {point.number} · {moment(point.found_at)} · {point.by}
        {point.stands && ` ${t("· as it stands")}`}
      </p>
      {point.name && <p className="font-semibold">{point.name}</p>}
      <p>
        {point.title}
        {point.value && <b className="ml-2 text-xl">{point.value}</b>}
        {point.total_interest && (
          <span className="ml-3 text-soft">
            {t("interest {totalInterest}", { totalInterest: point.total_interest })}
          </span>
        )}
      </p>
      <p className="text-[0.95rem]">
        {point.changes.length > 0 ? point.changes.join("; ") : point.given}
      </p>
      {point.changes.length > 0 && (
        <details className="text-sm text-soft">
          <summary className="cursor-pointer">{t("All that was given")}</summary>
          {point.given}
        </details>
      )}
    </>
  );
}

function Name({ point, onName }: { point: TrailTold; onName: (name: string) => void }) {
  const { limits } = useDesk().words;
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    if (typed !== null && typed.trim() !== point.name) onName(typed.trim());
    setTyped(null);
  };
  if (typed === null)
    return (
      <Button look="link" onClick={() => setTyped(point.name)}>
        {point.name ? t("Rename") : t("Name it")}
      </Button>
    );
  return (
    <Field
      autoFocus
      name={t("Name of answer {number}", { number: point.number })}
      value={typed}
      maxLength={limits.point_name}
      className="text-ink"
      onType={setTyped}
      onBlur={done}
      onEnter={done}
      leaves={() => setTyped(null)}
    />
  );
}

/** Whether an answer stands side by side with the case, and the way to and from there. */
function Pinned({
  caseId,
  number,
  pins,
  onPins,
}: Pick<Props, "caseId" | "pins" | "onPins"> & { number: number }) {
  const { limits } = useDesk().words;
  const isThis = (pin: Pin) => pin.case === caseId && pin.point === number;
  const isFull = pins.length >= limits.pins;
  if (pins.some(isThis))
    return (
      <Button look="link" onClick={() => onPins(pins.filter((pin) => !isThis(pin)))}>
        {t("Take off side by side")}
      </Button>
    );
  return (
    <Button
      look="link"
      disabled={isFull}
      title={isFull ? t("{pins} can stand side by side", { pins: limits.pins + 1 }) : undefined}
      onClick={() => onPins([...pins, { case: caseId, point: number }])}
    >
      {t("Pin side by side")}
    </Button>
  );
}
