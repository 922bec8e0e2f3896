// The texts of the screen, for the catalogue: one JSON array of { file, texts }, two of what counts.
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";

const SAYS = { t: 1, rich: 1, tn: 2 };
const found = [];

function look(node, file) {
  const many = ts.isCallExpression(node) && SAYS[node.expression.getText()];
  if (many) {
    const said = node.arguments.slice(0, many);
    if (!said.every(ts.isStringLiteral)) throw new Error(`${file}: ${node.getText()} is no plain text`);
    found.push({ file, texts: said.map((each) => each.text) });
  }
  ts.forEachChild(node, (child) => look(child, file));
}

const source = new URL("src/", import.meta.url).pathname;
for (const name of readdirSync(source, { recursive: true }).sort()) {
  if (!/\.tsx?$/.test(name) || /^(api\/schema|texts)\.ts$/.test(name)) continue;
  const text = readFileSync(join(source, name), "utf8");
  look(ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true), `web/src/${name}`);
}
process.stdout.write(JSON.stringify(found));
