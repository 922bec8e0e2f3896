import { useLong } from "./use-long";

/** Said where an answer takes longer than one expects; what stands on the page can be changed. */
export function StillWorking({ busy }: { busy: boolean }) {
  const long = useLong(busy, 1_000);
  return (
    <p role="status" className={long ? "mb-2 text-sm text-soft" : "sr-only"}>
      {long && "Still working … You can go on: what is asked next takes its place."}
    </p>
  );
}
