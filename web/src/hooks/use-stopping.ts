import { useQueryClient, type QueryKey } from "@tanstack/react-query";
import { useState } from "react";

export interface Stopping {
  /** Whether this question was stopped before it was answered. */
  stopped: boolean;
  stop: () => void;
  goOn: () => void;
}

/** The way to stop a question that takes long, and to ask it again; another question is a new one.
 *  `goesOn`: it is gone on with by whoever asked it. */
export function useStopping(key: QueryKey, question: unknown, goesOn = false): Stopping {
  const queries = useQueryClient();
  const now = JSON.stringify(question);
  const [stoppedAt, setStoppedAt] = useState<string>();
  return {
    stopped: stoppedAt === now,
    stop: () => {
      setStoppedAt(now);
      // The server hears that nobody waits any more.
      void queries.cancelQueries({ queryKey: key });
    },
    goOn: () => {
      setStoppedAt(undefined);
      if (!goesOn) void queries.refetchQueries({ queryKey: key, type: "active" });
    },
  };
}
