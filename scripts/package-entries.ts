/** Modules that the package names, and their sources. */
import { readFileSync } from 'node:fs';

interface Package {
  exports: Record<string, unknown>;
  bin: Record<string, string>;
}

/** @param folder below `dist`, with a slash at its end: those in it alone */
export function packageEntries(folder: '' | 'production/' = ''): Record<string, string> {
  const { exports, bin } = JSON.parse(readFileSync('package.json', 'utf8')) as Package;
  const named = JSON.stringify([exports, bin]).matchAll(/"\.\/dist\/(production\/)?([\w./-]+)\.js"/g);
  const names = [...named].filter(([, below = '']) => below === folder).map(([, , name = '']) => name);
  return Object.fromEntries(names.filter((name) => !name.endsWith('.min')).map((name) => [name, `src/${name}.ts`]));
}
