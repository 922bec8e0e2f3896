import { useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { askCase, blankCase, CASES, copyCase, startCase } from "../api/cases";
import { startVersion } from "../api/reviews";
import type { CaseOpened, Content, Statement } from "../api/types";
import { whenSaved } from "./on-the-way";
import { capital } from "./words";
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

/** A new version beside an approved case, of what stands on its page. */
export function useNewVersion(id: string, content: Content) {
  const onSuccess = useOpened();
  return useMutation({ mutationFn: () => startVersion(id, content), onSuccess });
}

/** What came of a question is opened as a case of its own, named after the one it was asked of. */
export function useOpenAs({ statement, ...beside }: Content) {
  const { words } = useDesk();
  const onSuccess = useOpened();
  return useMutation({
    mutationFn: async (found: { statement: Statement | Promise<Statement>; suffix: string }) => {
      const named = statement.name ? `${statement.name}, ${found.suffix}` : capital(found.suffix);
      const name = named.slice(0, words.limits.name);
      return startCase({ ...beside, statement: { ...(await found.statement), name } });
    },
    onSuccess,
  });
}
