/** What other windows of this browser save is told here, and what is saved here there. */
const channel = new BroadcastChannel("zephyrant-saved");

interface Saved {
  id: string;
  version: number;
}

export function tellElsewhere(saved: Saved): void {
  channel.postMessage(saved);
}

/** Listens for what other windows save of one thing; gives the way to stop. */
export function onSavedElsewhere(id: string, heard: (version: number) => void): () => void {
  const listen = ({ data }: MessageEvent<Saved>) => {
    if (data.id === id) heard(data.version);
  };
  channel.addEventListener("message", listen);
  return () => channel.removeEventListener("message", listen);
}
