import { useColleagues, useSaveShares, useShares } from "../../api/beside";
import { Select } from "../../ui/select";
import { Sheet } from "../../ui/sheet";
import { Wrong } from "../../ui/wrong";
import { t } from "../../texts";

interface Props {
  caseId: string;
  open: boolean;
  onOpen: (open: boolean) => void;
}

const MAY = [
  { value: "no", label: t("does not see it") },
  { value: "read", label: t("may read it") },
  { value: "edit", label: t("may change it") },
];

/** With whom a case is shared, and what each may do. */
export function Sharing({ caseId, open, onOpen }: Props) {
  const shares = useShares(caseId, open);
  const colleagues = useColleagues(open);
  const change = useSaveShares(caseId);
  const set = (username: string, may: string) => {
    const others = (shares.data ?? []).filter((each) => each.username !== username);
    change.mutate(may === "no" ? others : [...others, { username, may_edit: may === "edit" }]);
  };
  return (
    <Sheet
      title={t("Share")}
      about={t("Nobody but you sees this case until you name them here.")}
      open={open}
      onOpen={onOpen}
    >
      <Wrong error={shares.error ?? colleagues.error ?? change.error} className="mt-3" />
      {colleagues.data?.length === 0 && (
        <p className="mt-4">{t("You have no colleagues here yet.")}</p>
      )}
      <ul className="mt-4 space-y-2">
        {shares.data &&
          colleagues.data?.map(({ username, name }) => {
            const share = shares.data.find((each) => each.username === username);
            return (
              <li key={username} className="flex items-center justify-between gap-4">
                <span>{name}</span>
                <Select
                  name={t("{name} may", { name })}
                  value={share ? (share.may_edit ? "edit" : "read") : "no"}
                  options={MAY}
                  onChoose={(may) => set(username, may)}
                />
              </li>
            );
          })}
      </ul>
    </Sheet>
  );
}
