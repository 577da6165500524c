/** The entry points of the package, by the names that users import: `tsconfig.entries.json` is the one list of them. */
import { readFileSync } from 'node:fs';

const { compilerOptions } = JSON.parse(readFileSync(new URL('../tsconfig.entries.json', import.meta.url), 'utf8'));

/** Name → source file, from the root of the repository. */
export const entries = Object.fromEntries(
  Object.entries(compilerOptions.paths).map(([name, [source]]) => [name, source.replace('./', '')]),
);
