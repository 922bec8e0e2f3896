/** Saves on their way, by what they are of: they outlive the page they were made on. */
const onTheWay = new Map<string, Promise<void>>();

/** Until nothing of it is on its way to the server any more. */
export async function whenSaved(id: string): Promise<void> {
  // A page that is being left begins its last save only after who waits for it has asked.
  await Promise.resolve();
  await onTheWay.get(id);
}

/** Until a save of it is done; meanwhile it is on its way. */
export async function untilDone(id: string, going: Promise<void>): Promise<void> {
  onTheWay.set(id, going);
  await going;
  if (onTheWay.get(id) === going) onTheWay.delete(id);
}
