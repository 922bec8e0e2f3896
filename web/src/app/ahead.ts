import type { QueryClient } from "@tanstack/react-query";
import { askCase, askCases, lookOf } from "../api/cases";
import { askMe, askWords } from "../api/desk";
import { whenSaved } from "../hooks/saving";
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
    const { q, sort } = lookOf(new URLSearchParams(search));
    queries.infiniteQuery(askCases(q, sort)).catch(SAID_THERE);
  }
  const id = /^\/cases\/([^/]+)$/.exec(pathname)?.[1];
  if (id) {
    void CasePage.load();
    // It waits a little for the page that shows it.
    const asked = { ...askCase(id, () => whenSaved(id)), gcTime: 5_000 };
    queries.query(asked).catch(SAID_THERE);
  }
}
