import { ask, client } from "./client";
import type { CaseOpened, ManyStarted } from "./types";

/** A text that is sent as it is: the server reads its numbers exactly and says what is wrong. */
const asItIs = (text: string, signal: AbortSignal) => ({
  body: text as never,
  bodySerializer: (body: unknown) => body as string,
  headers: { "Content-Type": "application/json" },
  signal,
});

export function startFromDocument(text: string, signal: AbortSignal): Promise<CaseOpened> {
  return ask(client.POST("/api/v1/cases/from-document", asItIs(text, signal)));
}

/** A case for each document of a list. `making`: by what name to ask how far it is. */
export function startFromDocuments(
  text: string,
  making: string,
  signal: AbortSignal,
): Promise<ManyStarted> {
  return ask(
    client.POST("/api/v1/cases/from-documents", {
      params: { query: { making } },
      ...asItIs(text, signal),
    }),
  );
}
