import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import { defineConfig } from "eslint/config";
import ts from "typescript-eslint";

/** What only `api` does: it holds one hook or function an endpoint. */
const ASKING = [
  { name: "@tanstack/react-query", importNames: ["useQuery", "useQueries", "useInfiniteQuery"] },
].map((each) => ({ ...each, message: "Questions are asked by the hooks in api." }));

/** What files must not reach into, by the names of folders; the server is reached by `api` alone. */
function walls(files, barred) {
  const patterns = barred.map((name) => ({ group: [`**/${name}/**`] }));
  const inAPI = files.startsWith("src/api/");
  const client = { group: ["**/api/client"], importNames: ["client", "ask", "everyPage"] };
  const rule = inAPI ? { patterns } : { patterns: [...patterns, client], paths: ASKING };
  return { files: [files], rules: { "no-restricted-imports": ["error", rule] } };
}

/** Parts that `ui` makes, so that there is one of each. */
const MADE_IN_UI = "JSXOpeningElement[name.name=/^(button|input|textarea|select|svg|polyline)$/]";

/** Texts that the catalogue would not hold: they go through `texts`. */
const NAMED = "label|aria-label|title|placeholder|about|alone|why|says|after";
const TEXTS = [
  "JSXText[value=/[A-Za-z]{2}/]:not([value=/^\\s*zephyrant$/])",
  `JSXAttribute[name.name=/^(${NAMED})$/] > Literal[value=/[A-Za-z]{2}/]`,
  ":not(CallExpression[callee.name=/^(t|tn|rich)$/]) > Literal[value=/^[A-Z][a-z]+ [a-z]/]",
].map((selector) => ({ selector, message: "Texts go through t, tn or rich of texts." }));

export default defineConfig(
  { ignores: ["dist", "src/api/schema.ts", "*.config.js", "*.mjs"] },
  js.configs.recommended,
  ts.configs.strictTypeChecked,
  {
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
  },
  a11y.flatConfigs.recommended,
  hooks.configs.flat["recommended-latest"],
  {
    rules: {
      "no-restricted-globals": ["error", "parseFloat", "parseInt"],
      eqeqeq: "error",
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      // The schema says that what has a default is there; a question that is sent may leave it out.
      "@typescript-eslint/no-unnecessary-condition": "off",
      // A field that opens by a press has the focus; so has the name on the page to sign in.
      "jsx-a11y/no-autofocus": "off",
      // What scrolls is reached by the keyboard.
      "jsx-a11y/no-noninteractive-tabindex": ["error", { roles: ["region", "table", "tabpanel"] }],
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      // No React compiler is used here, so nothing is compiled wrongly.
      "react-hooks/incompatible-library": "off",
    },
  },
  // Walls: api, hooks, ui, features, app: each knows those before it, and no feature another.
  walls("src/api/**", ["hooks", "ui", "features", "app"]),
  walls("src/hooks/**", ["ui", "features", "app"]),
  walls("src/ui/**", ["features", "app"]),
  walls("src/features/case/**", ["app", "cases", "rates", "tables"]),
  walls("src/features/cases/**", ["app", "case", "rates", "tables"]),
  walls("src/features/rates/**", ["app", "case", "cases", "tables"]),
  walls("src/features/tables/**", ["app", "case", "cases", "rates"]),
  walls("src/app/**", []),
  { files: ["src/**"], rules: { "no-restricted-syntax": ["error", ...TEXTS] } },
  {
    files: ["src/features/**", "src/app/**", "src/hooks/**"],
    rules: {
      "no-restricted-syntax": [
        "error",
        { selector: MADE_IN_UI, message: "Take the part that ui/ makes." },
        ...TEXTS,
      ],
    },
  },
  // A part fits the eye.
  {
    files: ["src/**"],
    ignores: ["src/api/schema.ts"],
    rules: { "max-lines": ["error", 200] },
  },
);
