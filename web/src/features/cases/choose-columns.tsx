import { useSaveColumns } from "../../api/desk";
import type { Column } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { Opening } from "../../ui/opening";
import { COLUMNS } from "./columns";
import { t } from "../../texts";

/** Which columns the list has. */
export function ChooseColumns() {
  const { me, words } = useDesk();
  const save = useSaveColumns();
  const toggle = (column: Column) =>
    save.mutate(COLUMNS.filter((each) => me.columns.includes(each) !== (each === column)));
  return (
    <Opening
      look="quiet"
      list={(lists, opened) => (
        <lists.CheckList
          {...opened}
          options={COLUMNS.map((column) => ({
            value: column,
            label: words.list_columns[column],
            on: me.columns.includes(column),
          }))}
          onToggle={toggle}
        />
      )}
    >
      {t("Columns")}
    </Opening>
  );
}
