import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { saveAsides, useSideBySide } from "../../api/beside";
import { caseKey, useCase } from "../../api/cases";
import type { Asides, CaseOpened } from "../../api/types";
import { whenSaved } from "../../hooks/on-the-way";
import { useDesk } from "../../hooks/use-desk";
import { CannotOpen } from "../../ui/cannot-open";
import { Beside } from "./beside";
import { rich, t } from "../../texts";

/** What is pinned beside a case, and the ways to change it: kept before it is shown. */
function usePins(opened: CaseOpened) {
  const queries = useQueryClient();
  const [asides, setAsides] = useState(opened.asides);
  const [failed, setFailed] = useState<string>();
  const change = async (changed: Partial<Asides>) => {
    const next = { ...asides, ...changed };
    try {
      await saveAsides(opened.id, next);
      setAsides(next);
      setFailed(undefined);
      queries.removeQueries({ queryKey: caseKey(opened.id) });
    } catch (error) {
      setFailed(error instanceof Error ? error.message : t("It could not be kept."));
    }
  };
  const takeOff = (place: number) => {
    const pins = asides.pins.filter((_, number) => number !== place - 1);
    const { base } = asides;
    void change({ pins, base: base === place ? 0 : base > place ? base - 1 : base });
  };
  const pin = (id: string) => void change({ pins: [...asides.pins, { case: id, point: null }] });
  return { asides, failed, change, takeOff, pin };
}

function Opened({ opened }: { opened: CaseOpened }) {
  const { marks } = useDesk();
  const { asides, failed, change, takeOff, pin } = usePins(opened);
  const table = useSideBySide(opened.id, marks.name, asides);
  const name = opened.called;
  return (
    <Beside
      title={t("{name}, side by side", { name })}
      table={table}
      failed={failed}
      file={`/api/v1/cases/${opened.id}/side-by-side/file`}
      mayEdit={opened.may_edit}
      alone={t(
        "Nothing is pinned beside this case yet. Pin another case, or an answer from its trail.",
      )}
      taken={[opened.id, ...asides.pins.flatMap((each) => (each.point === null ? each.case : []))]}
      count={asides.pins.length + 1}
      onBase={(place) => void change({ base: place })}
      onTakeOff={takeOff}
      onAdd={pin}
      tools={
        <Link className="text-choice underline" to={`/cases/${opened.id}?show=trail`}>
          {t("Pin from the trail")}
        </Link>
      }
    >
      {rich("{name} and what is pinned beside it, each held against the base.", {
        name: (
          <Link className="text-choice underline" to={`/cases/${opened.id}`}>
            {name}
          </Link>
        ),
      })}
    </Beside>
  );
}

export function SideBySidePage() {
  const { id = "" } = useParams();
  const opened = useCase(id, () => whenSaved(id), "side-by-side");
  if (opened.error)
    return (
      <CannotOpen
        what={t("This case cannot be opened")}
        why={opened.error.message}
        to="/"
        list={t("To your cases")}
      />
    );
  if (!opened.data) return <main className="p-8 text-soft">{t("Opening …")}</main>;
  return <Opened key={id} opened={opened.data} />;
}
