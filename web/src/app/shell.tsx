import { Suspense, useMemo, useState } from "react";
import { NavLink, Outlet, useNavigate } from "react-router";
import { endSession, useSaveMarks } from "../api/desk";
import type { MarksWord } from "../api/types";
import { waiting } from "../hooks/draft";
import { useDesk } from "../hooks/use-desk";
import { useKeys } from "../hooks/use-keys";
import { useStartCase } from "../hooks/use-opened";
import { useTheme } from "../hooks/use-theme";
import { Button } from "../ui/button";
import { Choice } from "../ui/choice";
import { later } from "../ui/later";
import { Menu } from "../ui/menu";
import { inMarks } from "../ui/numbers";
import { DeskProvider } from "./desk-provider";
import type { Which } from "./sheets";
import { t } from "../texts";

const Sheets = later(async () => (await import("./sheets")).Sheets);

const SAMPLE = "48250.00";
/** Before it, so that it is seen how large numbers are grouped. */
const LARGE = "12";

/** How numbers are written, said by an example. */
function MarksChoice() {
  const { me, words, marks } = useDesk();
  const choose = useSaveMarks();
  return (
    <span className="flex items-baseline gap-1.5">
      {t("Numbers")}
      <Choice
        name={t("Numbers are written")}
        value={me.marks}
        shown={inMarks(SAMPLE, marks)}
        options={words.marks.map((each) => ({
          value: each.name,
          label: inMarks(LARGE + SAMPLE, each),
        }))}
        onChoose={(name) => choose.mutate(name as MarksWord["name"])}
        className="text-sm"
      />
    </span>
  );
}

function Header() {
  const { me } = useDesk();
  const [theme, toggleTheme] = useTheme();
  const [sheet, setSheet] = useState<Which>();
  const [left, setLeft] = useState(0);
  const signOut = async (allTheSame = false) => {
    // Leaving the page of a case saves what waits there.
    await navigate("/");
    for (let turn = 0; turn < 20 && waiting(me.username).length > 0; turn += 1)
      await new Promise((done) => setTimeout(done, 100));
    const unsaved = waiting(me.username).length;
    if (unsaved > 0 && !allTheSame) {
      setLeft(unsaved);
      return;
    }
    await endSession();
    location.assign("/");
  };
  const navigate = useNavigate();
  const start = useStartCase();
  const keys = useMemo(
    () => [
      { key: "c", run: () => void navigate("/") },
      { key: "q", run: () => void navigate("/rates") },
      { key: "g", run: () => void navigate("/tables") },
      { key: "n", run: () => start.mutate(undefined) },
      { key: "?", run: () => void navigate("/guide") },
      { key: "t", run: toggleTheme },
      { key: "h", run: () => setSheet((open) => (open === "keys" ? undefined : "keys")) },
    ],
    [navigate, start, toggleTheme],
  );
  useKeys(keys);
  return (
    <header className="print:hidden border-b border-rule bg-sheet">
      <div className="mx-auto flex max-w-[1280px] flex-wrap items-center gap-x-6 gap-y-1 px-4 py-2 sm:px-8">
        <NavLink to="/" className="font-serif text-xl font-semibold">
          zephyrant<span className="text-choice">~</span>
        </NavLink>
        <nav aria-label={t("Main")} className="flex gap-5">
          {[
            ["/", t("Cases")],
            ["/rates", t("Rates")],
            ["/tables", t("Tables")],
          ].map(([to = "/", label]) => (
            <NavLink
              key={to}
              to={to}
              className={({ isActive }) =>
                isActive ? "font-semibold" : "text-soft hover:text-ink"
              }
            >
              {label}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex flex-wrap items-center gap-x-4 text-sm text-soft">
          <MarksChoice />
          <NavLink to="/guide" className="hover:text-ink">
            {t("Guide")}
          </NavLink>
          <Button look="quiet" onClick={() => setSheet("keys")}>
            {t("Keyboard")}
          </Button>
          <Button look="quiet" onClick={toggleTheme}>
            {theme === "light" ? t("Dark") : t("Light")}
          </Button>
          <Menu
            name={t("{name}: how a case begins, country and files, password, tokens, sign out", {
              name: me.name,
            })}
            actions={[
              { label: t("How a case begins"), run: () => setSheet("begins") },
              { label: t("Country and files"), run: () => setSheet("files") },
              { label: t("Change password"), run: () => setSheet("password") },
              { label: t("API and tokens"), run: () => setSheet("tokens") },
              { label: t("Sign out"), run: () => void signOut() },
            ]}
          >
            {me.name} <span aria-hidden>▾</span>
          </Menu>
        </div>
      </div>
      {sheet && <Sheets which={sheet} onClose={() => setSheet(undefined)} />}
      {left > 0 && (
        <p role="alert" className="border-t border-wrong bg-sheet px-8 py-2 text-wrong">
          {t("Changes that are not saved yet: {left}. They wait in this browser, for you alone.", {
            left,
          })}{" "}
          <Button look="link" onClick={() => void signOut(true)}>
            {t("Sign out all the same")}
          </Button>
        </p>
      )}
    </header>
  );
}

export function Shell() {
  return (
    <DeskProvider>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:top-2 focus:left-2 focus:z-50 focus:bg-sheet focus:p-2"
      >
        {t("To the page itself")}
      </a>
      <Header />
      <div id="main" tabIndex={-1} className="outline-none">
        <Suspense>
          <Outlet />
        </Suspense>
      </div>
    </DeskProvider>
  );
}
