import type { ReactNode } from "react";

interface Props {
  /** What the window is called. */
  title: string;
  /** As wide as a table needs, or as lines are read. */
  narrow?: boolean;
  children: ReactNode;
}

/** A page of the desk. */
export function Page({ title, narrow = false, children }: Props) {
  return (
    <main className={`mx-auto px-4 pt-3.5 pb-5 sm:px-8 ${narrow ? "max-w-3xl" : "max-w-[1280px]"}`}>
      <title>{`${title} · Zephyrant`}</title>
      {children}
    </main>
  );
}

/** What a page is about. */
export function PageTitle({ children }: { children: ReactNode }) {
  return <h1 className="mr-auto font-serif text-3xl font-semibold break-words">{children}</h1>;
}
