import { useState } from "react";
import type { Statement } from "../../api/client";
import { Choice } from "../../ui/choice";
import { day } from "../../ui/moment";
import { inMarks } from "../../ui/numbers";
import { useDesk } from "../../hooks/use-desk";
import { useOwed, type Payoff, type useStretch } from "./use-asked";

interface Props {
  statement: Statement;
  /** Whether the schedule on the page is that of the statement. */
  ready: boolean;
  stretch: string;
  found: ReturnType<typeof useStretch>;
  onStretch: (typed: string) => void;
}

const PAYOFFS: { value: Payoff; label: string }[] = [
  { value: "nearest", label: "rounded to the nearest" },
  { value: "up", label: "rounded up" },
];

const FIELD = "w-full rounded border border-rule-strong bg-sheet px-2.5 py-1 placeholder:text-soft";

/** What is owed at any moment, and what any stretch adds up to, for the typing. */
export function Asking({ statement, ready, stretch, found, onStretch }: Props) {
  const { marks } = useDesk();
  const [at, setAt] = useState("");
  const [payoff, setPayoff] = useState<Payoff>("nearest");
  const owed = useOwed(statement, at, ready, payoff);
  const money = (text: string) => inMarks(text, marks);
  const dated = Boolean(statement.start);
  const moments = at.trim() ? (owed.data ?? []) : [];
  const sums = stretch.trim() && !found.error ? (found.data ?? []) : [];
  return (
    <section aria-label="Ask the schedule" className="mt-3 grid gap-x-10 gap-y-3 lg:grid-cols-2">
      <div>
        <label className="block text-sm text-soft">
          Owed at
          <input
            id="ask-owed"
            value={at}
            maxLength={2000}
            placeholder={dated ? "13, every 12 or 15 Mar 2029" : "13, or every 12"}
            className={`${FIELD} mt-0.5 block text-base text-ink`}
            onChange={(event) => setAt(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Escape") event.currentTarget.blur();
            }}
          />
        </label>
        {at.trim() && owed.error && (
          <p role="alert" className="mt-1 text-[0.95rem] text-wrong">
            {owed.error.message}
          </p>
        )}
        {moments.length > 0 && !owed.error && (
          <div className="mt-1 max-h-72 overflow-auto">
            <table aria-label="What is owed" className="w-full text-[0.95rem]">
              <thead>
                <tr className="text-sm text-soft">
                  <th className="text-left font-normal">Moment</th>
                  {dated && <th className="text-right font-normal">Accrued</th>}
                  <th className="text-right font-normal">Owed, {statement.currency}</th>
                </tr>
              </thead>
              <tbody>
                {moments.map((each) => (
                  <tr key={each.what} className="border-b border-rule">
                    <td className="py-0.5">
                      {each.what.startsWith("on ") && each.date
                        ? `on ${day(each.date)}`
                        : each.what}
                      {each.per_day && (
                        <span className="ml-2 text-sm text-soft">
                          {money(each.per_day)} a day more
                        </span>
                      )}
                    </td>
                    {dated && <td className="text-right">{money(each.accrued)}</td>}
                    <td className="text-right font-semibold">{money(each.owed)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {moments.some((each) => each.per_day) && (
              <p className="mt-1 text-sm text-soft">
                Interest to the day is{" "}
                <Choice
                  name="Interest to the day is"
                  value={payoff}
                  shown={PAYOFFS.find((each) => each.value === payoff)?.label ?? ""}
                  options={PAYOFFS}
                  onChoose={(chosen) => setPayoff(chosen as Payoff)}
                />
                .
              </p>
            )}
          </div>
        )}
      </div>
      <div>
        <label className="block text-sm text-soft">
          Totals of
          <input
            id="ask-stretch"
            value={stretch}
            maxLength={200}
            placeholder={
              dated ? "13-24; year 2; last 12; 2028" : "13-24; year 2; last 12; or drag on the line"
            }
            className={`${FIELD} mt-0.5 block text-base text-ink`}
            onChange={(event) => onStretch(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Escape") event.currentTarget.blur();
            }}
          />
        </label>
        {stretch.trim() && found.error && (
          <p role="alert" className="mt-1 text-[0.95rem] text-wrong">
            {found.error.message}
          </p>
        )}
        {sums.map((sum) => (
          <p key={`${sum.first}-${sum.last}`} role="status" className="mt-1 text-[0.95rem]">
            <b>{sum.what}</b>
            {sum.begins && sum.ends && ` (${day(sum.begins)} to ${day(sum.ends)})`}: paid{" "}
            <b>{money(sum.paid)}</b>, interest <b>{money(sum.interest)}</b>, principal{" "}
            <b>{money(sum.principal)}</b>
            {Number(sum.added) !== 0 && (
              <>
                , further lent and fees <b>{money(sum.added)}</b>
              </>
            )}
            ; owed {money(sum.opening)} before, {money(sum.closing)} after.
          </p>
        ))}
      </div>
    </section>
  );
}
