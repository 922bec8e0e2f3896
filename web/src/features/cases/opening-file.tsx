import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { CASES } from "../../api/cases";
import { Refused } from "../../api/client";
import { startFromDocument, startFromDocuments } from "../../api/documents";
import { someName, useFileProgress } from "../../api/files";
import { useLong } from "../../hooks/use-long";
import { useOpened } from "../../hooks/use-opened";
import { useStoppable } from "../../hooks/use-stoppable";
import { StillWorking } from "../../ui/still-working";
import { Unread, Wrong } from "../../ui/wrong";
import { t, tn } from "../../texts";

const ZIP_BEGINS = [0x50, 0x4b];

/** The text of a file; a zip, as all cases are exported, as a list of what its documents say. */
async function textOf(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (!ZIP_BEGINS.every((byte, place) => bytes[place] === byte)) return file.text();
  const { unzipSync } = await import("fflate");
  const decoder = new TextDecoder();
  let documents: string[];
  try {
    const kept = unzipSync(bytes, { filter: ({ name }) => name.endsWith(".json") });
    documents = Object.values(kept).map((each) => decoder.decode(each));
  } catch {
    throw new Error(
      t("This zip cannot be read: it is damaged, or packed in a way not known here."),
    );
  }
  if (!documents.length) throw new Error(t("No loan document (.json) is in this zip."));
  return `[${documents.join(",")}]`;
}

interface Asked {
  file: File;
  making: string;
}

/** A new case from a loan document, or one for each of a list of them. */
function useOpenDocument() {
  const opened = useOpened();
  const queries = useQueryClient();
  return useStoppable(
    async ({ file, making }: Asked, signal) => {
      const text = await textOf(file);
      const isList = text.trimStart().startsWith("[");
      return isList ? startFromDocuments(text, making, signal) : startFromDocument(text, signal);
    },
    (made) =>
      "cases" in made ? void queries.invalidateQueries({ queryKey: CASES }) : opened(made),
  );
}

/** A file as it is opened: how far it is, what came of it. */
export function OpeningFile({ file }: { file: File }) {
  const { run, stopping, busy, asked, data, error } = useOpenDocument();
  const open = useRef(run);
  useEffect(() => {
    open.current({ file, making: someName() });
  }, [file]);
  const progress = useFileProgress(asked?.making, useLong(busy, 800));
  const { stopped } = stopping;
  const queries = useQueryClient();
  useEffect(() => {
    // All may have been opened just before it was stopped.
    if (stopped) void queries.invalidateQueries({ queryKey: CASES });
  }, [stopped, queries]);
  const errors = error instanceof Refused ? error.errors : [];
  return (
    <div className="order-last basis-full empty:hidden">
      <StillWorking
        busy={busy}
        share={progress.data?.share ?? undefined}
        stopping={stopping}
        says={t("Opening its documents … You can go on meanwhile.")}
        stoppedSays={t(
          "Stopped. Its documents are opened all together or not at all: the list tells.",
        )}
      />
      {data && "cases" in data && (
        <p role="status">
          {tn("{count} case opened.", "{count} cases opened.", data.cases, { count: data.cases })}
          {data.unanswered > 0 &&
            " " +
              t("Without an answer so far: {count}. Open one to see its answer.", {
                count: data.unanswered,
              })}
        </p>
      )}
      {errors.length > 0 ? (
        <div role="alert" className="text-wrong">
          <Unread errors={errors} />
        </div>
      ) : (
        <Wrong error={error} />
      )}
    </div>
  );
}
