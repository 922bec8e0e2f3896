import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { ask, client, type CaseOpened, type Statement } from "../api/client";
import { useDesk } from "../hooks/use-desk";

/** Goes to a case that was just made. */
export function useOpened() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  return (opened: CaseOpened) => {
    void queries.invalidateQueries({ queryKey: ["cases"] });
    void navigate(`/cases/${opened.id}`);
  };
}

/** A new case: blank, the payment asked for. */
export function useStartCase() {
  const { me } = useDesk();
  const statement = {
    marks: me.marks,
    name: "",
    currency: "EUR",
    payment: "?",
    balance: "0",
  } as Statement;
  const opened = useOpened();
  return useMutation({
    mutationFn: () =>
      ask(client.POST("/api/v1/cases", { body: { statement, note: "", tags: [] } })),
    onSuccess: opened,
  });
}

const ZIP_BEGINS = [0x50, 0x4b];

/** The text of a file; a zip, as all cases are taken out, as a list of what its documents say. */
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

/** New cases from a file of several documents, as all are taken out: how many. */
async function openAll(text: string): Promise<number> {
  const { cases } = await ask(
    client.POST("/api/v1/cases/from-documents", {
      body: text as never,
      bodySerializer: (body) => body as unknown as string,
      headers: { "Content-Type": "application/json" },
    }),
  );
  return cases;
}

/** A new case from a loan document, or one for each of a list of them. */
export function useOpenDocument() {
  const opened = useOpened();
  const queries = useQueryClient();
  return useMutation({
    // The text goes as it is: the server reads its numbers exactly and says what is wrong.
    mutationFn: async (file: File) => {
      const text = await textOf(file);
      if (text.trimStart().startsWith("[")) return openAll(text);
      return ask(
        client.POST("/api/v1/cases/from-document", {
          body: text as never,
          bodySerializer: (body) => body as unknown as string,
          headers: { "Content-Type": "application/json" },
        }),
      );
    },
    onSuccess: (made) =>
      typeof made === "number"
        ? void queries.invalidateQueries({ queryKey: ["cases"] })
        : opened(made),
  });
}

/** A new case that starts from another. */
export function useCopyCase() {
  const opened = useOpened();
  return useMutation({
    mutationFn: (id: string) =>
      ask(client.POST("/api/v1/cases/{case_id}/copy", { params: { path: { case_id: id } } })),
    onSuccess: opened,
  });
}
