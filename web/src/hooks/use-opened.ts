import { useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { askCase, blankCase, CASES, copyCase, startCase } from "../api/cases";
import type { CaseOpened, Statement } from "../api/types";
import { whenSaved } from "./on-the-way";
import { useDesk } from "./use-desk";

/** Asks for a case before its page is there to ask for it; for that it waits a little. What fails
 *  is said by the page. */
export function askCaseAhead(queries: QueryClient, id: string): void {
  const asked = { ...askCase(id, () => whenSaved(id)), gcTime: 5_000 };
  queries.query(asked).catch(() => undefined);
}

/** Goes to a case that was just made. */
export function useOpened() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  return (opened: CaseOpened) => {
    void queries.invalidateQueries({ queryKey: CASES });
    void navigate(`/cases/${opened.id}`);
  };
}

/** A new case: blank, or of a statement. */
export function useStartCase() {
  const { me } = useDesk();
  const onSuccess = useOpened();
  return useMutation({
    mutationFn: (statement: Statement | undefined) => {
      const blank = blankCase(me);
      return startCase(statement ? { ...blank, statement } : blank);
    },
    onSuccess,
  });
}

/** A new case that starts from another. */
export function useCopyCase() {
  const onSuccess = useOpened();
  return useMutation({ mutationFn: copyCase, onSuccess });
}
