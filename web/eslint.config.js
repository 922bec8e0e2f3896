import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import { defineConfig } from "eslint/config";
import ts from "typescript-eslint";

export default defineConfig(
  { ignores: ["dist", "src/api/schema.ts"] },
  js.configs.recommended,
  ts.configs.strict,
  hooks.configs.flat["recommended-latest"],
  {
    rules: {
      "no-restricted-globals": ["error", "parseFloat", "parseInt"],
      eqeqeq: "error",
      // No React compiler is used here, so nothing is compiled wrongly.
      "react-hooks/incompatible-library": "off",
    },
  },
  {
    // Walls: pieces shared by screens know no screen, and screens do not reach into each other.
    files: ["src/ui/**"],
    rules: {
      "no-restricted-imports": ["error", { patterns: ["**/case/**", "**/cases/**", "**/rates/**"] }],
    },
  },
  {
    files: ["src/cases/**", "src/rates/**"],
    rules: { "no-restricted-imports": ["error", { patterns: ["**/case/**"] }] },
  },
);
