import { same } from "./same";

type Parts = Record<string, unknown>;

const isGroup = (value: unknown): value is Parts =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** What stands now with the step from one content to another made in it: what that step does not
 *  change stays, and what has changed since stays as it is. */
export function patched<C>(now: C, from: C, to: C): C {
  if (!isGroup(now) || !isGroup(from) || !isGroup(to)) return same(now, from) ? to : now;
  const next: Parts = { ...now };
  for (const name of new Set([...Object.keys(from), ...Object.keys(to)]))
    if (!same(from[name], to[name])) next[name] = patched(now[name], from[name], to[name]);
  return next as C;
}
