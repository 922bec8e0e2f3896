import type { FactTold } from "../../api/types";
import { Facts } from "../../ui/table";

/** What stands side by side where there is room: money, and rates. */
const ABOUT: readonly (readonly FactTold["about"][])[] = [
  ["paid", "bounds", "cost"],
  ["rates", "yearly_cost"],
];

/** Totals, dates, costs and rates, each named for what it is. */
export function Results({ facts }: { facts: readonly FactTold[] }) {
  return (
    <div className="mt-3 grid gap-x-8 gap-y-1 sm:grid-cols-2">
      {ABOUT.map((abouts, place) => {
        const some = abouts.flatMap((about) => facts.filter((fact) => fact.about === about));
        return (
          some.length > 0 && (
            <div key={place}>
              <Facts facts={some} />
            </div>
          )
        );
      })}
    </div>
  );
}
