import { useMutation } from "@tanstack/react-query";
import { startCase } from "../../api/cases";
import { startVersion } from "../../api/reviews";
import type { Content, Statement } from "../../api/types";
import { useDesk } from "../../hooks/use-desk";
import { useOpened } from "../../hooks/use-opened";
import { capital } from "../../hooks/words";

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
