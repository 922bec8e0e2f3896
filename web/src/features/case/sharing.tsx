import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client, everyPage, type Shared } from "../../api/client";
import { Sheet } from "../../ui/sheet";
import { answerWith } from "../../hooks/answer-with";

interface Props {
  caseId: string;
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** With whom a case is shared, and what each may do. */
export function Sharing({ caseId, open, onOpen }: Props) {
  const queries = useQueryClient();
  const path = { params: { path: { case_id: caseId } } };
  const key = ["shares", caseId];
  const shares = useQuery({
    queryKey: key,
    queryFn: () => ask(client.GET("/api/v1/cases/{case_id}/shares", path)),
    enabled: open,
  });
  const colleagues = useQuery({
    queryKey: ["colleagues"],
    queryFn: () =>
      everyPage((start) => ask(client.GET("/api/v1/colleagues", { params: { query: { start } } }))),
    enabled: open,
  });
  const change = useMutation({
    mutationFn: (body: Shared[]) =>
      ask(client.PUT("/api/v1/cases/{case_id}/shares", { ...path, body })),
    onSuccess: (now) => answerWith(queries, key, now),
  });
  const failed = shares.error ?? colleagues.error ?? change.error;
  const set = (username: string, may: string) => {
    const others = (shares.data ?? []).filter((each) => each.username !== username);
    change.mutate(may === "no" ? others : [...others, { username, may_edit: may === "edit" }]);
  };
  return (
    <Sheet
      title="Share"
      about="Nobody but you sees this case until you name them here."
      open={open}
      onOpen={onOpen}
    >
      {failed && (
        <p role="alert" className="mt-3 text-wrong">
          {failed.message}
        </p>
      )}
      {colleagues.data?.length === 0 && <p className="mt-4">You have no colleagues here yet.</p>}
      <ul className="mt-4 space-y-2">
        {shares.data &&
          colleagues.data?.map((colleague) => {
            const share = shares.data.find((each) => each.username === colleague.username);
            return (
              <li key={colleague.username} className="flex items-center justify-between gap-4">
                <span>{colleague.name}</span>
                <select
                  aria-label={`${colleague.name} may`}
                  className="rounded border border-rule-strong bg-sheet px-2 py-1"
                  value={share ? (share.may_edit ? "edit" : "read") : "no"}
                  onChange={(event) => set(colleague.username, event.target.value)}
                >
                  <option value="no">does not see it</option>
                  <option value="read">may read it</option>
                  <option value="edit">may change it</option>
                </select>
              </li>
            );
          })}
      </ul>
    </Sheet>
  );
}
