import { ask, client } from "./client";
import type { CaseOpened, Content } from "./types";

/** Saves a case from the version it started from. */
export function sendCase(id: string) {
  return (
    content: Content,
    version: number,
    { leaving, left }: { leaving: boolean; left: boolean },
  ): Promise<CaseOpened> =>
    ask(
      client.PUT("/api/v1/cases/{case_id}", {
        params: { path: { case_id: id } },
        body: { ...content, version, left },
        keepalive: leaving,
      }),
    );
}
