import { usePayingMore } from "../../api/asking";
import type { Content, More } from "../../api/types";
import { useSettled } from "../../hooks/use-settled";
import { useStopping } from "../../hooks/use-stopping";
import { Sheet } from "../../ui/sheet";
import { ToldTable } from "../../ui/table";
import { OpenAs, Outcome, Typed } from "./what-if";
import { useOpenAs } from "./use-started";
import { t } from "../../texts";

export const NO_MORE: More = { each: "100", instead: "", lump: "", at: "12" };

interface Props {
  content: Content;
  more: More;
  onMore: (more: More) => void;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** A little more with each payment, or a lump: what it saves. */
export function PayingMore({ content, more, onMore, open, onOpen }: Props) {
  const { statement } = content;
  const asked = { statement: useSettled(statement, 120), more: useSettled(more, 120) };
  const found = usePayingMore(asked, open);
  const stopping = useStopping(["paying-more"], asked);
  const take = useOpenAs(content);
  const { data } = found;
  return (
    <Sheet
      title={t("Paying more")}
      about={t("More paid than is due: the payment stays what it is, the loan ends sooner.")}
      open={open}
      onOpen={onOpen}
      asks
    >
      <div className="mt-4 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Typed
          label={t("More with each payment")}
          value={more.each}
          placeholder="100"
          onType={(each) => onMore({ ...more, each })}
        />
        <Typed
          label={t("or in place of what is due")}
          value={more.instead}
          placeholder="1,050"
          onType={(instead) => onMore({ ...more, instead, each: instead.trim() ? "" : more.each })}
        />
        <Typed
          label={t("and once")}
          value={more.lump}
          placeholder={t("5k")}
          onType={(lump) => onMore({ ...more, lump })}
        />
        {more.lump.trim() && (
          <Typed
            label={statement.start ? t("at payment or on") : t("at payment")}
            value={more.at}
            onType={(at) => onMore({ ...more, at })}
          />
        )}
      </div>
      <Outcome error={found.error} busy={found.isFetching} stopping={stopping}>
        {data && (
          <>
            <p className="font-serif text-xl font-semibold">{data.says}</p>
            <ToldTable label={t("Paying more")} told={data.told} strong={1} className="mt-4" />
            <OpenAs
              taking={take}
              onTake={() => take.mutate({ statement: data.statement, suffix: t("more paid") })}
            >
              {t("Open it as a case")}
            </OpenAs>
          </>
        )}
      </Outcome>
    </Sheet>
  );
}
