import { useMutation } from "@tanstack/react-query";
import { useRef } from "react";
import { takeFile } from "../api/file";
import { useFileProgress } from "../api/files";
import { useLong } from "../hooks/use-long";
import { Button } from "./button";
import { Share } from "./still-working";
import { Wrong } from "./wrong";

interface Taken {
  address: string;
  /** What the file is, as a sentence names it: "the statement". */
  what: string;
}

/** A name for a file while it is made, also where the page has no secure connection. */
function someName(): string {
  const bytes = Array.from(crypto.getRandomValues(new Uint8Array(16)));
  const digits = bytes.map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return digits.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
}

/** Takes files out of the desk, one at a time, and tells how the one being made grows. */
export function useTaking(before: () => Promise<unknown> = () => Promise.resolve()) {
  const left = useRef<AbortController>(null);
  const taking = useMutation({
    mutationFn: async ({ address, making }: Taken & { making: string }) => {
      left.current?.abort();
      const leave = new AbortController();
      left.current = leave;
      await before();
      const joined = address.includes("?") ? "&" : "?";
      try {
        await takeFile(`${address}${joined}making=${making}`, leave.signal);
      } catch (error) {
        if (!leave.signal.aborted) throw error;
      }
    },
  });
  return {
    take: (what: string, address: string) => taking.mutate({ what, address, making: someName() }),
    leave: () => left.current?.abort(),
    busy: taking.isPending,
    asked: taking.variables,
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
          {long && `Making ${asked?.what} … You can go on meanwhile.`}
        </p>
        {long && typeof share === "number" && <Share share={share} of={`Made of ${asked?.what}`} />}
        {long && (
          <Button look="link" onClick={leave}>
            Leave it
          </Button>
        )}
      </div>
      <Wrong error={error} className="" />
    </>
  );
}
