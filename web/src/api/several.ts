import { useMutation, useQueryClient } from "@tanstack/react-query";
import { CASES } from "./cases";
import { ask, client } from "./client";

/** What may be done to the cases picked. */
export type Deed =
  | { kind: "delete"; cases: string[]; called?: string }
  | { kind: "undelete"; cases: string[] }
  | { kind: "tag"; cases: string[]; add: string[]; takeOff: string[] };

function done(deed: Deed) {
  const { cases } = deed;
  switch (deed.kind) {
    case "delete":
      return ask(client.POST("/api/v1/cases/several/delete", { body: { cases } }));
    case "undelete":
      return ask(client.POST("/api/v1/cases/several/undelete", { body: { cases } }));
    case "tag": {
      const body = { cases, add: deed.add, take_off: deed.takeOff };
      return ask(client.POST("/api/v1/cases/several/tag", { body }));
    }
  }
}

/** Does something to several cases at once; tells what was asked, which changed, how many did not. */
export function useDeed() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (deed: Deed) => ({ deed, ...(await done(deed)) }),
    onSuccess: () =>
      Promise.all(
        [CASES, ["case"], ["bin"]].map((queryKey) => queries.invalidateQueries({ queryKey })),
      ),
  });
}
