import { takeFile } from "../api/file";
import { someName, useFileProgress } from "../api/files";
import { useLong } from "../hooks/use-long";
import { useStoppable } from "../hooks/use-stoppable";
import { Button } from "./button";
import { Share } from "./still-working";
import { Wrong } from "./wrong";
import { t } from "../texts";

interface Taken {
  address: string;
  /** What the file is, as a sentence names it: "the statement". */
  what: string;
}

/** Takes files out of the desk, one at a time, and tells how the one being made grows. */
export function useTaking(before: () => Promise<unknown> = () => Promise.resolve()) {
  const taking = useStoppable(async ({ address, making }: Taken & { making: string }, signal) => {
    await before();
    const joined = address.includes("?") ? "&" : "?";
    await takeFile(`${address}${joined}making=${making}`, signal);
  });
  return {
    take: (what: string, address: string) => taking.run({ what, address, making: someName() }),
    leave: taking.stopping.stop,
    busy: taking.busy,
    asked: taking.asked,
    error: taking.error,
  };
}

/** What is said while a file is made, or where it could not be. */
export function Taking({ taking }: { taking: ReturnType<typeof useTaking> }) {
  const { asked, busy, error, leave } = taking;
  const long = useLong(busy, 800);
  const grown = useFileProgress(asked?.making, long);
  const share = grown.data?.share;
  return (
    <>
      <div className={long ? "flex flex-wrap items-center gap-x-3 text-sm text-soft" : ""}>
        <p role="status" className={long ? "" : "sr-only"}>
          {long && t("Making {what} … You can go on meanwhile.", { what: asked?.what ?? "" })}
        </p>
        {long && typeof share === "number" && (
          <Share share={share} of={t("Made of {what}", { what: asked?.what ?? "" })} />
        )}
        {long && (
          <Button look="link" onClick={leave}>
            {t("Leave it")}
          </Button>
        )}
      </div>
      <Wrong error={error} className="" />
    </>
  );
}
