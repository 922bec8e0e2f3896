import { useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { casesFile } from "../../api/cases";
import type { useDeed } from "../../api/several";
import type { CaseListed } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useKeys } from "../../hooks/use-keys";
import { Button } from "../../ui/button";
import { Menu } from "../../ui/menu";
import { countedCases } from "../../ui/numbers";
import { Wrong } from "../../ui/wrong";
import { DeedDone } from "./deed-done";
import { TagPicked } from "./tag-picked";
import type { Picking } from "./use-picked";
import { t } from "../../texts";

interface Props extends Picking {
  /** The cases as they are listed now. */
  cases: readonly CaseListed[];
  deed: ReturnType<typeof useDeed>;
}

/** What may be done to the cases picked, and what was just done to some. */
export function PickedBar({ picked, clear, cases, deed }: Props) {
  const { words, marks } = useDesk();
  const navigate = useNavigate();
  const [tags, setTags] = useState(false);
  const bar = useRef<HTMLDivElement>(null);
  const ids = useMemo(() => [...picked.keys()], [picked]);
  const now = ids.flatMap((id) => cases.find((each) => each.id === id) ?? picked.get(id) ?? []);
  const most = words.limits.pins + 1;
  const fits = ids.length > 1 && ids.length <= most;
  const keys = useMemo(() => {
    if (!ids.length) return [];
    return [
      { key: "v", run: () => fits && void navigate(`/side-by-side?of=${ids.join(",")}`) },
      { key: "k", run: () => setTags(true) },
      { key: "e", run: () => bar.current?.querySelector<HTMLElement>("[aria-haspopup]")?.focus() },
      {
        key: t("Delete"),
        run: () => deed.mutate({ kind: "delete", cases: ids }, { onSuccess: clear }),
      },
      { key: "Escape", run: clear },
    ];
  }, [ids, fits, navigate, deed, clear]);
  useKeys(keys);
  if (!ids.length && !deed.data && !deed.error) return null;
  return (
    <div
      ref={bar}
      role="region"
      aria-label={t("Cases picked")}
      className="sticky bottom-3 z-20 mx-auto mt-3 w-fit max-w-full rounded-lg border border-rule-strong bg-sheet px-4 py-2 shadow-xl"
    >
      {ids.length > 0 && (
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <b role="status">{t("{cases} picked", { cases: countedCases(ids.length, marks) })}</b>
          <Button
            disabled={!fits}
            title={
              fits ? undefined : t("From two to {most} cases can stand side by side", { most })
            }
            className="disabled:text-soft"
            onClick={() => void navigate(`/side-by-side?of=${ids.join(",")}`)}
          >
            {t("Side by side")}
          </Button>
          <Menu
            name={t("Export those picked")}
            actions={[
              { label: t("Documents in one file (JSON)"), href: casesFile("json", ids) },
              { label: t("Documents, a file each (zip)"), href: casesFile("zip", ids) },
              { label: t("Their figures as a table (CSV)"), href: casesFile("csv", ids) },
            ]}
          >
            {t("Export")} <span aria-hidden>▾</span>
          </Menu>
          <Button look="quiet" aria-expanded={tags} onClick={() => setTags(!tags)}>
            {t("Tag")}
          </Button>
          <Button
            look="quiet"
            onClick={() => deed.mutate({ kind: "delete", cases: ids }, { onSuccess: clear })}
          >
            {t("Delete")}
          </Button>
          <Button look="quiet" className="text-soft" onClick={clear}>
            {t("Pick none")}
          </Button>
        </div>
      )}
      {tags && ids.length > 0 && (
        <TagPicked
          cases={now}
          onAdd={(tag) => deed.mutate({ kind: "tag", cases: ids, add: [tag], takeOff: [] })}
          onTakeOff={(tag) => deed.mutate({ kind: "tag", cases: ids, add: [], takeOff: [tag] })}
          onClose={() => setTags(false)}
        />
      )}
      {deed.data && <DeedDone done={deed.data} onUndo={deed.mutate} />}
      <Wrong error={deed.error} className="mt-1" />
    </div>
  );
}
