/** `templates.d.ts`: what pages and partials take, for TypeScript. */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, relative, resolve } from 'node:path';
import { type Compilation, typeDeclarations } from '../compiler/index.ts';
import { relativeModule, urlPath } from './module-paths.ts';
import { pathOf } from './path-of.ts';

/** Writes the types where they are others than before: an editor reads the file again when it is written. */
export function writeTypesFile(compilation: Compilation, file: string): void {
  const folder = dirname(file);
  const text = typeDeclarations(compilation, {
    importFrom: (specifier, template) =>
      /^\.{1,2}\//.test(specifier) ? relativeModule(folder, resolve(dirname(pathOf(template)), specifier)) : specifier,
    // As seen from the declarations, wherever the command was started.
    fileName: (template) => urlPath(relative(folder, pathOf(template))),
  });
  if (existsSync(file) && readFileSync(file, 'utf8') === text) return;
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, text);
}
