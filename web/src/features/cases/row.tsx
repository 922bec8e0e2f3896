import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import type { CaseListed } from "../../api/types";
import { askCaseAhead, useCopyCase } from "../../hooks/use-opened";
import { Button } from "../../ui/button";
import { Menu } from "../../ui/menu";
import { useDays } from "../../ui/moment";

interface Props {
  listed: CaseListed;
  onTag: (tag: string) => void;
  onDelete: (listed: CaseListed) => void;
}

function Found({ found }: Pick<CaseListed, "found">) {
  if (!found) return <span className="text-soft">not whole yet</span>;
  if (found.value === null)
    return (
      <span className="text-soft" title={found.says}>
        {found.says}
      </span>
    );
  return (
    <>
      <b>{found.value}</b> {found.says}
    </>
  );
}

/** A case in the list: what it asks for, what was found. */
export function Row({ listed, onTag, onDelete }: Props) {
  const queries = useQueryClient();
  const copy = useCopyCase();
  const { moment } = useDays();
  const name = listed.called;
  const actions = [
    { label: "Copy", run: () => copy.mutate(listed.id) },
    { label: "Export as a document", href: `/api/v1/cases/${listed.id}/document` },
    ...(listed.owner ? [] : [{ label: "Delete", run: () => onDelete(listed) }]),
  ];
  return (
    <div className="flex h-full items-center border-b border-rule hover:bg-paper">
      <Link
        to={`/cases/${listed.id}`}
        onClick={(event) => {
          // In another tab it is not opened here.
          if (!event.ctrlKey && !event.metaKey && !event.shiftKey) askCaseAhead(queries, listed.id);
        }}
        className="grid h-full min-w-0 grow grid-cols-[minmax(0,1fr)] content-center items-center gap-x-6 pl-4 sm:grid-cols-[minmax(0,5fr)_minmax(0,3.4fr)_minmax(0,4fr)]"
      >
        <span className="truncate font-serif text-lg leading-snug font-semibold">{name}</span>
        <span className="hidden truncate text-soft sm:block">{listed.found?.asks}</span>
        <span className="truncate sm:text-right">
          <Found found={listed.found} />
        </span>
      </Link>
      <span className="hidden w-40 shrink-0 justify-end gap-1 pl-3 text-sm md:flex md:flex-wrap">
        {listed.owner && <span className="truncate text-soft">{listed.owner}</span>}
        {listed.tags.slice(0, 2).map((tag) => (
          <Button
            key={tag}
            look="bare"
            className="truncate rounded-full border border-rule px-2 text-soft hover:text-ink"
            onClick={() => onTag(tag)}
          >
            {tag}
          </Button>
        ))}
      </span>
      <span className="hidden w-28 shrink-0 pl-3 text-right text-sm text-soft sm:block">
        {moment(listed.changed_at)}
      </span>
      <span className="px-2 text-soft">
        <Menu name={`What to do with ${name}`} actions={actions}>
          ⋯
        </Menu>
      </span>
    </div>
  );
}
