// Types of the API from its schema. Examples are left out: they would be comments half as long again as the types.
import { readFileSync, writeFileSync } from "node:fs";
import openapiTS, { astToString, COMMENT_HEADER } from "openapi-typescript";

const schema = JSON.parse(readFileSync("openapi.json", "utf8"), (key, value) =>
  key === "example" ? undefined : value,
);
writeFileSync("src/api/generated/schema.ts", COMMENT_HEADER + astToString(await openapiTS(schema)));
