import { useEffect, useState } from "react";
import { useLong } from "../hooks/use-long";
import type { Stopping } from "../hooks/use-stopping";
import { Button } from "./button";
import { t } from "../texts";

interface Props {
  busy: boolean;
  /** How much of it is done, from 0 to 1, where that is known. */
  share?: number | undefined;
  stopping: Stopping;
  /** What is said meanwhile, and once it was stopped. */
  says?: string;
  stoppedSays?: string;
}

/** Said where an answer takes longer than one expects: how far it is, and the way to stop it; what
 *  stands on the page can be changed meanwhile. */
export function StillWorking({
  busy,
  share,
  stopping,
  says = t("Still working … You can go on: what is asked next takes its place."),
  stoppedSays = t("Stopped before it was done."),
}: Props) {
  const { stopped, stop, goOn } = stopping;
  const long = useLong(busy && !stopped, 1_000);
  const shown = long || stopped;
  return (
    <div className={shown ? "mb-2 flex flex-wrap items-center gap-x-3 text-sm text-soft" : ""}>
      <p role="status" className={shown ? "" : "sr-only"}>
        {stopped ? stoppedSays : long && says}
      </p>
      {long && <Seconds />}
      {long && share !== undefined && <Share share={share} of={t("Worked so far")} />}
      {shown && (
        <Button look="link" onClick={stopped ? goOn : stop}>
          {stopped ? t("Go on") : t("Stop")}
        </Button>
      )}
    </div>
  );
}

/** For how long it has been worked. */
function Seconds() {
  const [seconds, setSeconds] = useState(1);
  useEffect(() => {
    const timer = setInterval(() => setSeconds((now) => now + 1), 1_000);
    return () => clearInterval(timer);
  }, []);
  return <span aria-hidden>{t("{seconds} s", { seconds })}</span>;
}

/** How much of something is done, as a bar and in words. */
export function Share({ share, of }: { share: number; of: string }) {
  return (
    <span className="flex items-center gap-2">
      <progress aria-label={of} value={share} max={1} className="w-36" />
      {Math.floor(100 * share)} %
    </span>
  );
}
