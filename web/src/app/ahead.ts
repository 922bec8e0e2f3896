import type { QueryClient } from "@tanstack/react-query";
import { askCases, lookOf } from "../api/cases";
import { askMe, askWords } from "../api/desk";
import { askCaseAhead } from "../hooks/use-opened";
import { CasePage } from "./pages";

/** What fails is said by the page that asked for it. */
const SAID_THERE = () => undefined;

/** Asks what the page at this address will ask, before it is drawn: one wait, not one after the
 *  other. */
export function askAhead(queries: QueryClient): void {
  queries.query(askMe).catch(SAID_THERE);
  queries.query(askWords).catch(SAID_THERE);
  const { pathname, search } = location;
  if (pathname === "/") {
    queries.infiniteQuery(askCases(lookOf(new URLSearchParams(search)))).catch(SAID_THERE);
  }
  const id = /^\/cases\/([^/]+)$/.exec(pathname)?.[1];
  if (id) {
    CasePage.load();
    askCaseAhead(queries, id);
  }
}
