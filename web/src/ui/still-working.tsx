import { useLong } from "../hooks/use-long";

/**
 * Said where an answer takes longer than one expects; what stands on the page can be changed.
 * `share`: how much of it is done, from 0 to 1, where that is known.
 */
export function StillWorking({ busy, share }: { busy: boolean; share?: number | undefined }) {
  const long = useLong(busy, 1_000);
  return (
    <div className={long ? "mb-2 flex flex-wrap items-center gap-x-3 text-sm text-soft" : ""}>
      <p role="status" className={long ? "" : "sr-only"}>
        {long && "Still working … You can go on: what is asked next takes its place."}
      </p>
      {long && share !== undefined && <Share share={share} of="Worked so far" />}
    </div>
  );
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
