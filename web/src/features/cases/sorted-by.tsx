import type { Sort } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { COLUMNS, sorts } from "./columns";
import type { Sorted } from "./heads";
import { rich, t } from "../../texts";

/** By what the list is sorted, and which way, where no columns stand over it. */
export function SortedBy({ sort, lastFirst, onSort }: Sorted) {
  const { list_columns: called } = useDesk().words;
  const options = [
    { value: "name", label: t("Name") },
    ...COLUMNS.filter(sorts).map((value) => ({ value, label: called[value] ?? value })),
  ];
  const shown = options.find((each) => each.value === sort)?.label ?? sort;
  return (
    <span>
      {rich("by {column} {turn}", {
        column: (
          <Choice
            name={t("Sorted by")}
            value={sort}
            shown={shown.toLowerCase()}
            options={options}
            onChoose={(by) => onSort(by as Sort, "")}
          />
        ),
        turn: (
          <Button
            look="mark"
            aria-label={
              lastFirst ? t("Last first: turn it round") : t("First first: turn it round")
            }
            onClick={() => onSort(sort, lastFirst ? "up" : "down")}
          >
            {lastFirst ? "↓" : "↑"}
          </Button>
        ),
      })}
    </span>
  );
}
