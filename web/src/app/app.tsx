import { ErrorBoundary } from "react-error-boundary";
import { BrowserRouter, Route, Routes, useLocation } from "react-router";
import { CasesPage } from "../features/cases/page";
import { Instead } from "../ui/instead";
import * as pages from "./pages";
import { Shell } from "./shell";
import { t } from "../texts";

function Broken() {
  return (
    <Instead what={t("This page broke")} again={t("Load it again")}>
      {t("That is our mistake. What you typed is kept.")}
    </Instead>
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
          <Route path="*" element={<pages.NotHere />} />
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
