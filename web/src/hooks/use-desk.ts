import { createContext, useContext } from "react";
import type { MarksWord, Me, Words } from "../api/types";

interface Desk {
  me: Me;
  words: Words;
  marks: MarksWord;
}

export const DeskContext = createContext<Desk | null>(null);

/** Who is here, the choices there are, and the marks numbers are read in. */
export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error("useDesk outside DeskProvider");
  return desk;
}
