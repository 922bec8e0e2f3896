import { transformAsync } from "@babel/core";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** What did not change does not render: the React compiler makes every part of a page remember what
 *  it was made of. */
const remembering: Plugin = {
  name: "react-compiler",
  enforce: "pre",
  transform: {
    // Types alone have nothing to remember.
    filter: { id: { include: /\/src\/.*\.tsx?$/, exclude: /\/schema\.ts$/ } },
    handler: async (code, filename) => {
      const made = await transformAsync(code, {
        filename,
        configFile: false,
        babelrc: false,
        sourceMaps: true,
        plugins: ["babel-plugin-react-compiler"],
        parserOpts: { plugins: ["typescript", "jsx"] },
      });
      return made?.code ? { code: made.code, map: made.map as never } : null;
    },
  },
};

const BASE = /node_modules\/(react|react-dom|react-router|scheduler|openapi-fetch|@tanstack)\//;

export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  plugins: [remembering, react(), tailwindcss()],
  build: {
    target: "es2022",
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 600,
    // What es2022 runs on preloads modules by itself.
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        codeSplitting: {
          // What every page stands on is one file: cut up it would be larger.
          groups: [{ name: "base", test: BASE }],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
}));
