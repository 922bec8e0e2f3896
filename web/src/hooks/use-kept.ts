import { useEffect, useEffectEvent, useState, useSyncExternalStore } from "react";
import { SIGNED_IN } from "../api/session";
import { onSavedElsewhere } from "./elsewhere";
import type { Keeper, Keeping, Opened } from "./keeper";
import { Saving } from "./saving";
import { isTyping } from "./typing";

export interface Kept<C, K> {
  keeping: Keeping<C, K>;
  /** Takes the version someone else saved for the one to go on from. */
  goOnFrom: (kept: K) => void;
  /** Saves at once what waits; gives the version then kept, or null where it could not be. */
  flush: () => Promise<number | null>;
  /** A field was left that had been typed in: what stands is saved as it is. */
  leaveField: () => void;
}

/** Keeps what stands on a page saved for as long as someone is there, and when they leave. What
 *  another window saves shows up here (`onElsewhere`) once nothing is being typed. */
export function useKept<C, K extends Opened>(
  keeper: Keeper<C, K>,
  content: C,
  onElsewhere: (content: C) => void,
): Kept<C, K> {
  const [saving] = useState(() => new Saving(keeper, content));
  const keeping = useSyncExternalStore(saving.keeping.subscribe, saving.keeping.current);
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
  const take = useEffectEvent(async () => {
    const arriving = await saving.fromElsewhere();
    if (arriving !== null) onElsewhere(arriving);
  });
  const { id } = keeper.opened;
  useEffect(() => {
    let heard = false;
    const look = () => {
      if (!heard || isTyping(document.activeElement)) return;
      heard = false;
      void take();
    };
    // The focus has moved on only after this.
    const left = () => setTimeout(look);
    document.addEventListener("focusout", left);
    const stop = onSavedElsewhere(id, () => {
      heard = true;
      look();
    });
    return () => {
      document.removeEventListener("focusout", left);
      stop();
    };
  }, [id]);
  const { goOnFrom, flush, leaveField } = saving;
  return { keeping, goOnFrom, flush, leaveField };
}
