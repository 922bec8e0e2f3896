import { ErrorBoundary } from "react-error-boundary";
import { BrowserRouter, Link, Route, Routes, useLocation } from "react-router";
import { CasesPage } from "../features/cases/page";
import { Button } from "../ui/button";
import * as pages from "./pages";
import { Shell } from "./shell";
import { rich, t } from "../texts";

function NotHere() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="font-serif text-2xl font-semibold">{t("There is nothing at this address")}</h1>
      <p className="mt-2">
        {rich("The case may be another analyst’s, or the link is not whole. {link}", {
          link: (
            <Link className="text-choice underline" to="/">
              {t("To your cases")}
            </Link>
          ),
        })}
      </p>
    </main>
  );
}

function Broken() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="font-serif text-2xl font-semibold">{t("This page broke")}</h1>
      <p className="mt-2">
        {rich("That is our mistake. What you typed is kept. {again}", {
          again: (
            <Button look="link" onClick={() => location.reload()}>
              {t("Load it again")}
            </Button>
          ),
        })}
      </p>
    </main>
  );
}

function Pages() {
  return (
    // A page that broke is left by going to another.
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[useLocation().pathname]}>
      <Routes>
        <Route element={<Shell />}>
          <Route path="/" element={<CasesPage onNear={pages.CasePage.load} />} />
          <Route path="/bin" element={<pages.BinPage />} />
          <Route path="/cases/:id" element={<pages.CasePage />} />
          <Route path="/cases/:id/side-by-side" element={<pages.SideBySidePage />} />
          <Route path="/side-by-side" element={<pages.SeveralPage />} />
          <Route path="/guide" element={<pages.GuidePage />} />
          <Route path="/tables" element={<pages.TablesPage />} />
          <Route path="/tables/:id" element={<pages.TablePage />} />
          <Route path="/tables/:id/flows" element={<pages.TablePage />} />
          <Route path="/rates" element={<pages.RatesPage />} />
          <Route path="/rates/side-by-side" element={<pages.QuoteLists />} />
          <Route path="/rates/side-by-side/:id" element={<pages.QuoteListPage />} />
          <Route path="*" element={<NotHere />} />
        </Route>
      </Routes>
    </ErrorBoundary>
  );
}

/** Every page and its address. */
export function App() {
  return (
    <BrowserRouter>
      <Pages />
    </BrowserRouter>
  );
}
