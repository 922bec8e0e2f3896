import { same } from "./same";

type Parts = Record<string, unknown>;

const isGroup = (value: unknown): value is Parts =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** What stands with each part that differs between two contents set by `set`. */
function withParts<C>(
  now: C,
  from: C,
  to: C,
  set: (now: unknown, from: unknown, to: unknown) => unknown,
): C {
  if (!isGroup(now) || !isGroup(from) || !isGroup(to)) return set(now, from, to) as C;
  const next: Parts = { ...now };
  for (const name of new Set([...Object.keys(from), ...Object.keys(to)]))
    if (!same(from[name], to[name])) next[name] = withParts(now[name], from[name], to[name], set);
  return next as C;
}

/** What stands now with the step from one content to another made in it: what that step does not
 *  change stays, and what has changed since stays as it is. */
export function patched<C>(now: C, from: C, to: C): C {
  return withParts(now, from, to, (stands, was, is) => (same(stands, was) ? is : stands));
}

/** A content with what came from elsewhere, between one content and another, in it. */
export function carried<C>(content: C, from: C, to: C): C {
  return withParts(content, from, to, (_stands, _was, is) => is);
}
