import type { CaseOpened, Content } from "../../api/types";

export function contentOf(opened: CaseOpened): Content {
  return { statement: opened.statement, note: opened.note, tags: opened.tags };
}
