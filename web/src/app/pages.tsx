import { lazy, useState, type ComponentType } from "react";
import { later } from "../ui/later";

interface Page {
  (): React.ReactNode;
  /** Loads it before it is shown. */
  load: () => void;
}

/** A page loaded when it is first shown; the page before it stays until it is there. One that is
 *  loaded ahead shows as soon as it is there: where React itself waits for something while no page
 *  was there before, it shows that no sooner than after 300 ms. */
function page(load: () => Promise<ComponentType>): Page {
  const Ahead = later(load);
  const WhenShown = lazy(async () => ({ default: await load() }));
  let isAhead = false;
  const Shown: Page = () => {
    // The compiler would look for `isAhead` outside.
    "use no memo";
    const [Now] = useState<ComponentType>(() => (isAhead ? Ahead : WhenShown));
    return <Now />;
  };
  Shown.load = () => {
    isAhead = true;
    Ahead.load();
  };
  return Shown;
}

export const BinPage = page(async () => (await import("../features/cases/bin")).BinPage);
export const CasePage = page(async () => (await import("../features/case/page")).CasePage);
export const SideBySidePage = page(
  async () => (await import("../features/case/side-by-side")).SideBySidePage,
);
export const SeveralPage = page(async () => (await import("../features/case/several")).SeveralPage);
export const GuidePage = page(async () => (await import("../features/guide/page")).GuidePage);
export const TablesPage = page(async () => (await import("../features/tables/list")).TablesPage);
export const TablePage = page(async () => (await import("../features/tables/page")).TablePage);
export const RatesPage = page(async () => (await import("../features/rates/page")).RatesPage);
export const QuoteLists = page(async () => (await import("../features/rates/lists")).QuoteLists);
export const QuoteListPage = page(
  async () => (await import("../features/rates/list")).QuoteListPage,
);
export const NotHere = page(async () => (await import("./not-here")).NotHere);
