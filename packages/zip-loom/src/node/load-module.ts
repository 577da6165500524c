/** Modules of a project, in JavaScript or TypeScript. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import type { createJiti } from 'jiti';
import { fromPackages } from '../diagnostics/index.ts';

/** The exports of a module by name; the default export as `default`. */
type Exports = Readonly<Record<string, unknown>>;

/** Loads a module by its absolute path, as it is now. */
export type LoadModule = (file: string) => Promise<Exports>;

/** Loads JavaScript with Node itself, and with jiti what Node does not read: TypeScript, and modules in packages that say they have none. */
export function moduleLoader(create: typeof createJiti): LoadModule {
  return async (file) => {
    const { href } = pathToFileURL(file);
    const jiti = () => create(href, { moduleCache: false });
    if (isTypeScript(file)) return jiti().import(file);
    try {
      return await loadWithNode(file);
    } catch (error) {
      if (!(error instanceof SyntaxError)) throw error;
      const how = { filename: file, async: true, forceTranspile: true };
      return jiti().evalModule(readFileSync(file, 'utf8'), how) as Promise<Exports>;
    }
  };
}

/**
 * Loads a module with jiti where it is installed, and else with Node itself.
 * @throws {LoomError} `missing-package`, for TypeScript where Node does not read it and there is no jiti
 */
export const loadModule: LoadModule = async (file) => {
  const load = () => import('jiti');
  const isReadable = !isTypeScript(file) || 'typescript' in process.features;
  const jiti = isReadable
    ? await load().catch(() => undefined)
    : await fromPackages('A configuration in TypeScript', ['jiti'], load);
  return jiti ? moduleLoader(jiti.createJiti)(file) : loadWithNode(file);
};

/** Node keeps what it has loaded: another text is another module. */
function loadWithNode(file: string): Promise<Exports> {
  const version = createHash('sha256').update(readFileSync(file)).digest('base64url');
  return import(`${pathToFileURL(file).href}?${version}`);
}

function isTypeScript(file: string): boolean {
  return /\.[cm]?ts$/.test(file);
}
