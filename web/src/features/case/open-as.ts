import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { ask, client, type Content, type Statement } from "../../api/client";
import { useOpened } from "../../ui/start";
import { useSettled } from "../../hooks/use-settled";

/** What came of a question is opened as a case of its own, named after this one. */
export function useOpenAs({ statement, ...beside }: Content, suffix: string) {
  const opened = useOpened();
  return useMutation({
    mutationFn: (found: Statement) => {
      const name = `${statement.name || "Unnamed case"}, ${suffix}`.slice(0, 200);
      return ask(
        client.POST("/api/v1/cases", { body: { ...beside, statement: { ...found, name } } }),
      );
    },
    onSuccess: opened,
  });
}

/** A question asked beside a case, a moment after it was typed. */
export function useAsked<Asked, Told>(
  key: string,
  asked: Asked,
  enabled: boolean,
  send: (asked: Asked, signal: AbortSignal) => Promise<Told>,
) {
  const settled = useSettled(JSON.stringify(asked), 120);
  return useQuery({
    queryKey: [key, settled],
    queryFn: ({ signal }) => send(JSON.parse(settled) as Asked, signal),
    enabled,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
}
