/** Modules of a project, in JavaScript or TypeScript. */
import { statSync } from 'node:fs';
import { extname } from 'node:path';
import { pathToFileURL } from 'node:url';
import { fromPackages } from '../diagnostics/index.ts';

/** Loads a module by its absolute path, as it is now. What it exports by name; the default export as `default`. */
export type LoadModule = (file: string) => Promise<Readonly<Record<string, unknown>>>;

/**
 * Loads a module with jiti where it is installed, and else with Node itself.
 * @throws {LoomError} `missing-package`, for TypeScript where Node does not read it and there is no jiti
 */
export const loadModule: LoadModule = async (file) => {
  const url = pathToFileURL(file).href;
  const isScript = /^\.[cm]?js$/.test(extname(file)) || 'typescript' in process.features;
  const load = () => import('jiti');
  const jiti = isScript
    ? await load().catch(() => undefined)
    : await fromPackages('A configuration in TypeScript', ['jiti'], load);
  if (jiti) return jiti.createJiti(url, { moduleCache: false }).import(file);
  // Node keeps what it has loaded; a file that has changed is another one.
  return import(`${url}?${statSync(file).mtimeMs}`);
};
