import { useEffect, useState, useSyncExternalStore } from "react";
import { SIGNED_IN } from "../api/client";
import type { Keeper, Keeping, Opened } from "./keeper";
import { Saving } from "./saving";

export interface Kept<C, K> {
  keeping: Keeping<C, K>;
  /** Takes the version someone else saved for the one to go on from. */
  goOnFrom: (kept: K) => void;
  /** Saves at once what waits; gives the version then kept, or null where it could not be. */
  flush: () => Promise<number | null>;
}

/** Keeps what stands on a page saved for as long as someone is there, and when they leave. */
export function useKept<C, K extends Opened>(keeper: Keeper<C, K>, content: C): Kept<C, K> {
  const [saving] = useState(() => new Saving(keeper, content));
  const keeping = useSyncExternalStore(saving.subscribe, saving.current);
  useEffect(() => saving.change(content), [saving, content]);
  useEffect(() => {
    saving.come();
    const hide = () => {
      if (document.visibilityState === "hidden") saving.hidden();
    };
    document.addEventListener("visibilitychange", hide);
    addEventListener("online", saving.now);
    addEventListener(SIGNED_IN, saving.now);
    return () => {
      document.removeEventListener("visibilitychange", hide);
      removeEventListener("online", saving.now);
      removeEventListener(SIGNED_IN, saving.now);
      saving.leave();
    };
  }, [saving]);
  return { keeping, goOnFrom: saving.goOnFrom, flush: saving.flush };
}
