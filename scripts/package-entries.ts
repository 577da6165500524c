/** Modules that a package names, and their sources. */
import { readFileSync } from 'node:fs';

interface Manifest {
  exports?: Record<string, unknown>;
  bin?: Record<string, string>;
}

/**
 * @param name of the package
 * @param folder below `dist`, with a slash at its end: those in it alone
 * @returns the path below `dist` without its ending → the source
 */
export function packageEntries(name: string, folder: '' | 'production/' = ''): Record<string, string> {
  const { exports, bin } = JSON.parse(readFileSync(`packages/${name}/package.json`, 'utf8')) as Manifest;
  const named = JSON.stringify([exports, bin]).matchAll(/"\.\/dist\/(production\/)?([\w./-]+)\.js"/g);
  const modules = [...named].filter(([, below = '']) => below === folder).map(([, , module = '']) => module);
  return Object.fromEntries(
    modules.filter((module) => !module.endsWith('.min')).map((module) => [module, `packages/${name}/src/${module}.ts`]),
  );
}
