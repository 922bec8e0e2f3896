import type { Comparison, QuoteLine } from "../../api/types";
import { Cell, Heads, RowHead, Table } from "../../ui/table";
import { t } from "../../texts";

interface Props {
  quotes: readonly QuoteLine[];
  found: Comparison;
  currency: string;
  /** The answer to the last keystroke is on its way. */
  busy: boolean;
}

/** Where a quote stands between the cheapest and the dearest; only for the eye. */
function Between({ place }: { place: number }) {
  return (
    <div aria-hidden className="relative h-3">
      <div className="absolute inset-x-0 top-[5px] h-px bg-rule-strong" />
      <div
        className="absolute top-[4px] left-0 h-[3px] bg-interest"
        style={{ width: `${100 * place}%` }}
      />
      <div
        className="absolute top-0 size-[11px] -translate-x-1/2 rounded-full bg-ink"
        style={{ left: `${100 * place}%` }}
      />
    </div>
  );
}

/** The quotes from the cheapest to the dearest, and how far apart they are. */
export function Ranked({ quotes, found, currency, busy }: Props) {
  const ranked = found.quotes
    .map((quote, place) => ({ ...quote, name: quotes[place]?.name ?? "" }))
    .filter((quote) => quote.rank !== null && quote.rank !== undefined)
    .sort((one, other) => (one.rank ?? 0) - (other.rank ?? 0));
  if (ranked.length === 0)
    return (
      <p className="mt-6 font-serif text-xl text-soft">{t("Ranked as soon as one is stated.")}</p>
    );
  return (
    <section aria-label={t("Ranked")} aria-busy={busy} className="mt-5">
      {found.says && (
        <p className="mb-2 font-serif text-[1.3rem] leading-snug font-semibold">{found.says}</p>
      )}
      <div className="rounded-lg border border-rule bg-sheet px-4 py-1">
        <Table>
          <Heads
            left={2}
            heads={[
              t("Rank"),
              t("Quote"),
              t("Effective a year"),
              t("Basis points above"),
              t("Cheapest to dearest"),
              t("Payment, {currency}", { currency }),
              t("Total interest"),
              t("More interest"),
            ]}
          />
          <tbody className="whitespace-nowrap">
            {ranked.map((quote, place) => (
              <tr key={place} className="border-b border-rule last:border-0">
                <td className="py-1.5 pr-4">{quote.rank}</td>
                <RowHead className="min-w-52 whitespace-normal">
                  <b>{quote.name || "unnamed"}</b>
                  <span className="block text-sm font-normal text-soft">
                    {quote.readings.percent?.text} % {quote.quote}
                  </span>
                </RowHead>
                <Cell className="font-semibold" title={`${quote.effective} %`}>
                  {quote.printed}
                </Cell>
                <Cell>{quote.basis_points}</Cell>
                <td className="w-[18%] min-w-32 pl-6">
                  <Between place={quote.place} />
                </td>
                <Cell>{quote.in_money?.payment ?? "–"}</Cell>
                <Cell>{quote.in_money?.interest ?? "–"}</Cell>
                <Cell>{quote.in_money?.more_interest ?? "–"}</Cell>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </section>
  );
}
