import type { FactTold } from "../../api/types";
import { Facts } from "../../ui/table";

/** What stands side by side where there is room, and what takes the whole line. */
const ABOUT: readonly FactTold["about"][] = ["paid", "rates", "cost", "yearly_cost"];

/** Totals, dates, costs and rates, each named for what it is. */
export function Results({ facts }: { facts: readonly FactTold[] }) {
  return (
    <div className="mt-4 grid gap-x-8 gap-y-1 sm:grid-cols-2">
      {ABOUT.map((about, place) => {
        const some = facts.filter((fact) => fact.about === about);
        return (
          some.length > 0 && (
            <div key={about} className={place > 1 ? "sm:col-span-2" : ""}>
              <Facts facts={some} />
            </div>
          )
        );
      })}
    </div>
  );
}
