// The types of the API from its schema. Defaults that are objects stand aside in it, for generators that know no such; ours does.
import { readFile, writeFile } from "node:fs/promises";
import openapiTS, { astToString } from "openapi-typescript";

const schema = JSON.parse(await readFile(new URL("../docs/openapi.json", import.meta.url)));
for (const { properties = {} } of Object.values(schema.components.schemas))
  for (const told of Object.values(properties))
    if (told["x-default"]) told.default = told["x-default"];
await writeFile(
  new URL("src/api/schema.ts", import.meta.url),
  `// Made from docs/openapi.json by \`make schemas\`.\n\n${astToString(await openapiTS(schema))}`,
);
