import type { ReactNode } from "react";
import { Button } from "./button";

interface Props {
  what: string;
  /** Why, and the way on. */
  children: ReactNode;
  /** What loads the page anew, where it may come the next time. */
  again?: string;
}

/** What stands where a page cannot. */
export function Instead({ what, children, again }: Props) {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="font-serif text-2xl font-semibold">{what}</h1>
      <p className="mt-2">
        {children}{" "}
        {again && (
          <Button look="link" onClick={() => location.reload()}>
            {again}
          </Button>
        )}
      </p>
    </main>
  );
}
