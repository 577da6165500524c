/** The files that templates name, as Vite serves and builds them. */
import { readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import { urlPath } from '../node/index.ts';

/** Folders in which nothing is an asset. */
const passedOver = new Set(['node_modules', 'dist', 'build', 'coverage']);

export interface AssetFolders {
  /** Vite’s root. */
  root: string;
  /** The folder that is served as it is; '' where there is none. */
  publicFolder: string;
  /** Folders below the root that are left out, such as that of the templates. */
  without: readonly string[];
}

/** Each file and where it is: public ones as they are, others as Vite serves them in development, or as `urlOf` says. */
export function assetMap(
  { root, publicFolder, without }: AssetFolders,
  base: string,
  urlOf: (file: string, path: string) => string | undefined = (_file, path) => base + encodeURI(path),
): Map<string, string> {
  const assets = new Map<string, string>();
  for (const file of filesBelow(root, [publicFolder, ...without])) {
    const path = urlPath(relative(root, file));
    const url = urlOf(file, path);
    if (url !== undefined) assets.set(path, url);
  }
  // What is served as it is comes first, as it does with Vite.
  for (const file of publicFolder === '' ? [] : filesBelow(publicFolder, [])) {
    const path = urlPath(relative(publicFolder, file));
    assets.set(path, base + encodeURI(path));
  }
  return assets;
}

function filesBelow(folder: string, without: readonly string[]): string[] {
  let entries: ReturnType<typeof entriesOf>;
  try {
    entries = entriesOf(folder);
  } catch {
    // A folder that is not there holds nothing.
    return [];
  }
  return entries.flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.name.startsWith('.')) return [];
    if (entry.isDirectory())
      return passedOver.has(entry.name) || without.includes(path) ? [] : filesBelow(path, without);
    return entry.isFile() ? [path] : [];
  });
}

function entriesOf(folder: string) {
  return readdirSync(folder, { withFileTypes: true });
}
