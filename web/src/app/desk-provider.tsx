import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type ReactNode } from "react";
import { Refused } from "../api/client";
import { ME, useMe, useServerWords } from "../api/desk";
import { SIGNED_IN, SIGNED_OUT } from "../api/session";
import type { Me } from "../api/types";
import { DeskContext } from "../hooks/use-desk";
import { Instead } from "../ui/instead";
import { later } from "../ui/later";
import { t } from "../texts";

const SignIn = later(async () => (await import("./sign-in")).SignIn);

/** Whether the session ended while someone was at the desk. */
function useSignedOut(username: string | undefined) {
  const [out, setOut] = useState(false);
  useEffect(() => {
    const listen = () => setOut(true);
    addEventListener(SIGNED_OUT, listen);
    return () => removeEventListener(SIGNED_OUT, listen);
  }, []);
  const backIn = (me: Me) => {
    // Another analyst starts anew; what waits here stays the first one's.
    if (username !== undefined && me.username !== username) location.assign("/");
    setOut(false);
    dispatchEvent(new Event(SIGNED_IN));
  };
  return [out, backIn] as const;
}

export function DeskProvider({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const me = useMe();
  const words = useServerWords(me.isSuccess);
  const [out, backIn] = useSignedOut(me.data?.username);
  const failed = me.error ?? words.error;
  if (!me.data && failed instanceof Refused && failed.status === 401) {
    return (
      <main className="grid min-h-dvh place-items-center p-4">
        <title>{t("Sign in · Zephyrant")}</title>
        <SignIn
          onIn={(mine) => {
            backIn(mine);
            queries.clear();
            queries.setQueryData(ME, mine);
            void me.refetch();
          }}
        />
      </main>
    );
  }
  if (!me.data && failed) {
    return (
      <Instead what={t("Zephyrant cannot be reached")} again={t("Try again")}>
        {failed.message}
      </Instead>
    );
  }
  if (!me.data || !words.data)
    return <main className="p-8 text-soft">{t("Laying out the desk …")}</main>;
  const marks = words.data.marks.find((each) => each.name === me.data.marks);
  if (!marks) throw new Error(`unknown marks ${me.data.marks}`);
  return (
    <DeskContext.Provider value={{ me: me.data, words: words.data, marks }}>
      {out && (
        <div className="fixed inset-0 z-50 grid place-items-center bg-paper/80 p-4">
          <SignIn
            why={t("Your session ended. Nothing you typed is lost: it is saved once you are back.")}
            onIn={(mine) => {
              backIn(mine);
              // What was refused meanwhile is asked again.
              void queries.refetchQueries({ predicate: (each) => each.state.status === "error" });
            }}
          />
        </div>
      )}
      <div inert={out}>{children}</div>
    </DeskContext.Provider>
  );
}
