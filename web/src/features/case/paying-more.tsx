import { ask, client, type Content, type More } from "../../api/client";
import { day } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { Sheet } from "../../ui/sheet";
import { useAsked, useOpenAs } from "./open-as";
import { Outcome, Typed } from "./what-if";

export const NO_MORE: More = { each: "100", lump: "", at: "12" };

interface Props {
  content: Content;
  more: More;
  onMore: (more: More) => void;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** A little more with each payment, or a lump: what it saves. */
export function PayingMore({ content, more, onMore, open, onOpen }: Props) {
  const { marks } = useDesk();
  const { statement } = content;
  const found = useAsked("paying-more", { statement, more }, open, (body, signal) =>
    ask(client.POST("/api/v1/ask/paying-more", { body, signal })),
  );
  const take = useOpenAs(content, "more paid");
  const { data } = found;
  const money = (text: string) => inMarks(text, marks);
  return (
    <Sheet
      title="Paying more"
      about="More paid than is due: the payment stays what it is, the loan ends sooner."
      open={open}
      onOpen={onOpen}
    >
      <div className="mt-4 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Typed
          label="More with each payment"
          value={more.each}
          placeholder="100"
          onType={(each) => onMore({ ...more, each })}
        />
        <Typed
          label="and once"
          value={more.lump}
          placeholder="5k"
          onType={(lump) => onMore({ ...more, lump })}
        />
        {more.lump.trim() && (
          <Typed
            label={statement.start ? "at payment or on" : "at payment"}
            value={more.at}
            onType={(at) => onMore({ ...more, at })}
          />
        )}
      </div>
      <Outcome error={found.error} busy={found.isFetching}>
        {data && (
          <>
            <p className="font-serif text-xl font-semibold">{data.says}</p>
            <table aria-label="Paying more" className="mt-4 w-full">
              <thead>
                <tr className="border-b border-rule-strong text-sm text-soft">
                  <td />
                  <th scope="col" className="py-1 text-right font-normal">
                    As it stands
                  </th>
                  <th scope="col" className="py-1 text-right font-normal">
                    With more paid
                  </th>
                  <th scope="col" className="py-1 text-right font-normal">
                    Saved
                  </th>
                </tr>
              </thead>
              <tbody>
                {(
                  [
                    [
                      "Payments",
                      String(data.payments_before),
                      String(data.payments_after),
                      String(data.payments_saved),
                    ],
                    [
                      "Interest",
                      money(data.interest_before),
                      money(data.interest_after),
                      money(data.interest_saved),
                    ],
                    ["Total paid", money(data.paid_before), money(data.paid_after), ""],
                    ...(data.ends_before && data.ends_after
                      ? [["Ends on", day(data.ends_before), day(data.ends_after), ""] as const]
                      : []),
                  ] as const
                ).map(([name, before, after, saved]) => (
                  <tr key={name} className="border-b border-rule">
                    <th scope="row" className="py-1 text-left font-normal text-soft">
                      {name}
                    </th>
                    <td className="py-1 text-right">{before}</td>
                    <td className="py-1 text-right font-semibold">{after}</td>
                    <td className="py-1 text-right">{saved}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <button
              className="mt-3 text-choice underline"
              disabled={take.isPending}
              onClick={() => take.mutate(data.statement)}
            >
              Open it as a case
            </button>
          </>
        )}
        {take.error && (
          <p role="alert" className="mt-2 text-wrong">
            {take.error.message}
          </p>
        )}
      </Outcome>
    </Sheet>
  );
}
