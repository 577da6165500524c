/** `templates.d.ts`: what pages and partials take, for TypeScript. */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { type Compilation, typeDeclarations } from '../compiler/index.ts';
import { relativeModule } from './module-paths.ts';
import { pathOf } from './path-of.ts';

/** Writes the types where they are others than before: an editor reads the file again when it is written. */
export function writeTypesFile(compilation: Compilation, file: string): void {
  const text = typeDeclarations(compilation, (specifier, template) =>
    /^\.{1,2}\//.test(specifier)
      ? relativeModule(dirname(file), resolve(dirname(pathOf(template)), specifier))
      : specifier,
  );
  if (existsSync(file) && readFileSync(file, 'utf8') === text) return;
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, text);
}
