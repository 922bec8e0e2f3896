import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Stopping } from "./use-stopping";

/** Something to be done that may take long, one at a time: the way to stop it before it is done, and
 *  to do it again. The server hears that nobody waits any more. */
export function useStoppable<A, T>(
  send: (asked: A, signal: AbortSignal) => Promise<T>,
  onSuccess?: (made: T) => void,
) {
  const running = useRef<AbortController>(null);
  const [stopped, setStopped] = useState<{ asked: A }>();
  const doing = useMutation({
    mutationFn: (asked: A) => {
      running.current?.abort();
      running.current = new AbortController();
      return send(asked, running.current.signal);
    },
    ...(onSuccess && { onSuccess }),
  });
  const { variables, reset } = doing;
  const run = (asked: A) => {
    setStopped(undefined);
    doing.mutate(asked);
  };
  const stopping: Stopping = {
    stopped: stopped !== undefined,
    stop: () => {
      running.current?.abort();
      if (variables !== undefined) setStopped({ asked: variables });
      reset();
    },
    goOn: () => {
      if (stopped) run(stopped.asked);
    },
  };
  return {
    run,
    stopping,
    busy: doing.isPending,
    asked: variables,
    data: doing.data,
    error: doing.error,
  };
}
