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

/** What styles bring along, which the bundler's own list of other people's work leaves out. */
const STYLED_BY = [
  "@fontsource-variable/source-sans-3",
  "@fontsource-variable/source-serif-4",
  "tailwindcss",
];
const styledBy: Plugin = {
  name: "styled-by",
  async generateBundle() {
    const told = await Promise.all(
      STYLED_BY.map(async (name) => {
        const file = `node_modules/${name}/LICENSE`;
        const text = await this.fs.readFile(file, { encoding: "utf8" });
        return `## ${name}\n\n${text.trim()}\n`;
      }),
    );
    const source = `# What the styles are made with\n\n${told.join("\n")}`;
    this.emitFile({ type: "asset", fileName: "third-party-styles.md", source });
  },
};

const BASE =
  /node_modules\/(react|react-dom|react-router|scheduler|openapi-fetch|@tanstack)\/|src\/(texts|api\/client|ui\/button)\.|preload-helper|rolldown-runtime/;

/** What several pages have in common and is smaller than it is to fetch: one file. */
const SMALL = /src\/(hooks\/(sends|use-stopping)|api\/(glossary|entering)|ui\/select)\./;

export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  plugins: [remembering, react(), tailwindcss(), styledBy],
  build: {
    target: "es2022",
    assetsInlineLimit: 0,
    // Whose work is in it, and on which terms.
    license: { fileName: "third-party.md" },
    chunkSizeWarningLimit: 600,
    // What es2022 runs on preloads modules by itself.
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        codeSplitting: {
          // What every page stands on is one file: cut up it would be larger.
          groups: [
            { name: "base", test: BASE },
            { name: "small", test: SMALL },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
}));
