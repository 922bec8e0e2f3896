import { ask, client } from "./client";
import type { CaseOpened } from "./types";

export function startFromFlows(body: {
  text: string;
  name: string;
  currency: string;
}): Promise<CaseOpened> {
  return ask(client.POST("/api/v1/cases/from-flows", { body }));
}
