/** A project’s templates as the tools see them: all at once, whatever is wrong with them. */
import { resolve } from 'node:path';
import { Compilation } from '../compiler/index.ts';
import type { TemplateError } from '../diagnostics/index.ts';
import { type AssetFiles, allErrors, compileOptions, withBuiltIns } from '../loom/index.ts';
import { assetFiles } from './asset-folder.ts';
import type { NodeLoomOptions } from './create-loom.ts';
import { folderStore } from './folder-store.ts';

export interface CompiledProject {
  compilation: Compilation;
  assets: AssetFiles | undefined;
  /** Everything that is wrong, in the order of the files. */
  errors: TemplateError[];
}

/** @throws {LoomError} when the templates’ folder or the assets cannot be read */
export function compileProject({
  assets: given,
  templates = 'templates',
  ...options
}: NodeLoomOptions): CompiledProject {
  const assets = given === undefined ? undefined : assetFiles(given)();
  const files = withBuiltIns(folderStore(resolve(templates)).read());
  const compilation = new Compilation(files, { ...compileOptions(options), assets });
  return { compilation, assets, errors: allErrors(compilation) };
}
