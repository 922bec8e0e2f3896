/** An object with its keys in order, so that equal contents read alike. */
function ordered(_: string, value: unknown): unknown {
  if (value === null || typeof value !== "object" || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([one], [other]) => (one < other ? -1 : 1)));
}

/** Whether two contents are the same, whatever the order of their keys. */
export function same(one: unknown, other: unknown): boolean {
  return one === other || JSON.stringify(one, ordered) === JSON.stringify(other, ordered);
}
