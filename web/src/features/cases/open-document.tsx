import { useState } from "react";
import { later } from "../../ui/later";
import { Upload, useDrop } from "../../ui/upload";
import { t } from "../../texts";

const OpeningFile = later(async () => (await import("./opening-file")).OpeningFile);

/** Opens loan documents from a file, chosen or dropped anywhere on the page. */
export function OpenDocument() {
  const [file, setFile] = useState<File>();
  const over = useDrop(setFile);
  return (
    <>
      {over && (
        <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-xl border-4 border-dashed border-choice bg-paper/85 font-serif text-2xl">
          {t("Drop the loan document here")}
        </div>
      )}
      <Upload
        name={t("Loan document to open")}
        accept=".json,.zip,application/json,application/zip"
        title={t(
          "Or all cases as they were exported (.json, .zip); or drop the file anywhere on this page",
        )}
        onFile={setFile}
      >
        {t("Open a document")}
      </Upload>
      {file && <OpeningFile file={file} />}
    </>
  );
}
