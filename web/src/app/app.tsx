import { createBrowserRouter, Link } from "react-router";
import { BinPage } from "../features/cases/bin";
import { CasesPage } from "../features/cases/page";
import { Button } from "../ui/button";
import { Shell } from "./shell";

function NotHere() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="font-serif text-2xl font-semibold">There is nothing at this address</h1>
      <p className="mt-2">
        The case may be another analyst’s, or the link is not whole.{" "}
        <Link className="text-choice underline" to="/">
          To your cases
        </Link>
      </p>
    </main>
  );
}

function Broken() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="font-serif text-2xl font-semibold">This page broke</h1>
      <p className="mt-2">
        That is our mistake. What you typed is kept.{" "}
        <Button look="link" onClick={() => location.reload()}>
          Load it again
        </Button>
      </p>
    </main>
  );
}

export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Broken />,
    children: [
      { path: "/", element: <CasesPage /> },
      { path: "/bin", element: <BinPage /> },
      {
        path: "/cases/:id",
        // Tables and the line come with the first case, not with the list.
        lazy: async () => ({ Component: (await import("../features/case/page")).CasePage }),
      },
      {
        path: "/cases/:id/side-by-side",
        lazy: async () => ({
          Component: (await import("../features/case/side-by-side")).SideBySidePage,
        }),
      },
      {
        path: "/tables",
        lazy: async () => ({ Component: (await import("../features/tables/list")).TablesPage }),
      },
      {
        path: "/tables/:id",
        lazy: async () => ({ Component: (await import("../features/tables/page")).TablePage }),
      },
      {
        path: "/rates",
        lazy: async () => ({ Component: (await import("../features/rates/page")).RatesPage }),
      },
      {
        path: "/rates/side-by-side",
        lazy: async () => ({ Component: (await import("../features/rates/lists")).QuoteLists }),
      },
      {
        path: "/rates/side-by-side/:id",
        lazy: async () => ({ Component: (await import("../features/rates/list")).QuoteListPage }),
      },
      { path: "*", element: <NotHere /> },
    ],
  },
]);
