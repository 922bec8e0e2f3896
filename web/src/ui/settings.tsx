import { useQuery } from "@tanstack/react-query";
import { createContext, useContext, type ReactNode } from "react";
import { ask, client, type MarksWord, type Me, type Words } from "../api/client";

interface Desk {
  me: Me;
  words: Words;
  marks: MarksWord;
}

const DeskContext = createContext<Desk | null>(null);

/** Who is here, the choices there are, and the marks numbers are read in. */
export function useDesk(): Desk {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error("useDesk outside DeskProvider");
  return desk;
}

export function DeskProvider({ children }: { children: ReactNode }) {
  const me = useQuery({ queryKey: ["me"], queryFn: () => ask(client.GET("/api/me")) });
  const words = useQuery({
    queryKey: ["words"],
    queryFn: () => ask(client.GET("/api/words")),
    staleTime: Infinity,
  });
  const failed = me.error ?? words.error;
  if (failed) {
    return (
      <main className="mx-auto max-w-xl p-8">
        <h1 className="font-serif text-2xl font-semibold">Zephyrant cannot be reached</h1>
        <p className="mt-2">{failed.message}</p>
        <button className="mt-4 underline" onClick={() => location.reload()}>
          Try again
        </button>
      </main>
    );
  }
  if (!me.data || !words.data) return <main className="p-8 text-soft">Laying out the desk …</main>;
  const marks = words.data.marks.find((each) => each.name === me.data.marks);
  if (!marks) throw new Error(`unknown marks ${me.data.marks}`);
  return (
    <DeskContext.Provider value={{ me: me.data, words: words.data, marks }}>
      {children}
    </DeskContext.Provider>
  );
}
