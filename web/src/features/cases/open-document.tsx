import { useMutation, useQueryClient } from "@tanstack/react-query";
import { CASES, startFromDocument, startFromDocuments } from "../../api/cases";
import { Refused } from "../../api/client";
import { useOpened } from "../../hooks/use-opened";
import { Unread, Wrong } from "../../ui/wrong";
import { Upload, useDrop } from "../../ui/upload";

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
    throw new Error("This zip cannot be read: it is damaged, or packed in a way not known here.");
  }
  if (!documents.length) throw new Error("No loan document (.json) is in this zip.");
  return `[${documents.join(",")}]`;
}

/** A new case from a loan document, or one for each of a list of them. */
function useOpenDocument() {
  const opened = useOpened();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) => {
      const text = await textOf(file);
      const isList = text.trimStart().startsWith("[");
      return isList ? startFromDocuments(text) : startFromDocument(text);
    },
    onSuccess: (made) =>
      typeof made === "number" ? void queries.invalidateQueries({ queryKey: CASES }) : opened(made),
  });
}

/** Opens loan documents from a file, chosen or dropped anywhere on the page. */
export function OpenDocument() {
  const { mutate, data, error } = useOpenDocument();
  const over = useDrop(mutate);
  const errors = error instanceof Refused ? error.errors : [];
  return (
    <>
      {over && (
        <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-xl border-4 border-dashed border-choice bg-paper/85 font-serif text-2xl">
          Drop the loan document here
        </div>
      )}
      <Upload
        name="Loan document to open"
        accept=".json,.zip,application/json,application/zip"
        title="Or all cases as they were exported (.json, .zip); or drop the file anywhere on this page"
        onFile={mutate}
      >
        Open a document
      </Upload>
      {typeof data === "number" && (
        <p role="status">
          {data} {data === 1 ? "case" : "cases"} opened.
        </p>
      )}
      {errors.length > 0 ? (
        <div role="alert" className="basis-full text-wrong">
          <Unread errors={errors} />
        </div>
      ) : (
        <Wrong error={error} className="basis-full" />
      )}
    </>
  );
}
