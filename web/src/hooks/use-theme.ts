import { useEffect, useState } from "react";

export type Theme = "light" | "dark";
const KEY = "zephyrant-theme";

function preferred(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

/** The theme in force, and the way to the other one; kept in this browser. */
export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState(preferred);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  const toggle = () => {
    const other = theme === "light" ? "dark" : "light";
    localStorage.setItem(KEY, other);
    setTheme(other);
  };
  return [theme, toggle];
}
