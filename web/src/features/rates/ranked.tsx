import type { Comparison, QuoteLine } from "../../api/client";

interface Props {
  quotes: readonly QuoteLine[];
  found: Comparison;
  currency: string;
  /** The answer to the last keystroke is on its way. */
  busy: boolean;
}

/** The quotes from the cheapest to the dearest, and how far apart they are. */
export function Ranked({ quotes, found, currency, busy }: Props) {
  const ranked = found.quotes
    .map((quote, place) => ({ ...quote, name: quotes[place]?.name ?? "", stated: quotes[place] }))
    .filter((quote) => quote.rank !== null && quote.rank !== undefined)
    .sort((one, other) => (one.rank ?? 0) - (other.rank ?? 0));
  if (ranked.length === 0)
    return <p className="mt-6 font-serif text-xl text-soft">Ranked as soon as one is stated.</p>;
  const head = "px-3 py-1.5 text-right font-normal";
  const cell = "px-3 py-1.5 text-right whitespace-nowrap";
  return (
    <section aria-label="Ranked" aria-busy={busy} className="mt-5">
      {found.says && (
        <p className="mb-2 font-serif text-[1.3rem] leading-snug font-semibold">{found.says}</p>
      )}
      <div className="overflow-x-auto rounded-lg border border-rule bg-sheet">
        <table className="w-full">
          <thead>
            <tr className="border-b border-ink text-sm text-soft">
              <th className="px-3 py-1.5 text-left font-normal">Rank</th>
              <th className="px-3 py-1.5 text-left font-normal">Quote</th>
              <th className={head}>Effective a year</th>
              <th className={head}>Basis points above</th>
              <th className="w-[18%] min-w-32 px-3 py-1.5 text-left font-normal">
                Cheapest to dearest
              </th>
              <th className={head}>Payment, {currency}</th>
              <th className={head}>Total interest</th>
              <th className={head}>More interest</th>
            </tr>
          </thead>
          <tbody>
            {ranked.map((quote, place) => (
              <tr key={place} className="border-b border-rule last:border-0">
                <td className="px-3 py-1.5">{quote.rank}</td>
                <td className="min-w-52 px-3 py-1.5">
                  <b>{quote.name || "unnamed"}</b>
                  <span className="block text-sm text-soft">
                    {quote.readings.percent?.text} % {quote.quote}
                  </span>
                </td>
                <td className={`${cell} font-semibold`} title={`${quote.effective} %`}>
                  {quote.printed}
                </td>
                <td className={cell}>{quote.basis_points}</td>
                <td className="px-5">
                  <div aria-hidden className="relative h-3">
                    <div className="absolute inset-x-0 top-[5px] h-px bg-rule-strong" />
                    <div
                      className="absolute top-[4px] left-0 h-[3px] bg-interest"
                      style={{ width: `${100 * quote.place}%` }}
                    />
                    <div
                      className="absolute top-0 size-[11px] -translate-x-1/2 rounded-full bg-ink"
                      style={{ left: `${100 * quote.place}%` }}
                    />
                  </div>
                </td>
                <td className={cell}>{quote.in_money?.payment ?? "–"}</td>
                <td className={cell}>{quote.in_money?.interest ?? "–"}</td>
                <td className={cell}>{quote.in_money?.more_interest ?? "–"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
