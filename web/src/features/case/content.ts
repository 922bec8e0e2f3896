import { ask, client, type CaseOpened, type Content } from "../../api/client";

export function contentOf(opened: CaseOpened): Content {
  return { statement: opened.statement, note: opened.note, tags: opened.tags };
}

/** Saves a case from the version it started from. */
export function sendCase(id: string) {
  return (content: Content, version: number, leaving: boolean): Promise<CaseOpened> =>
    ask(
      client.PUT("/api/v1/cases/{case_id}", {
        params: { path: { case_id: id } },
        body: { ...content, version },
        keepalive: leaving,
      }),
    );
}
