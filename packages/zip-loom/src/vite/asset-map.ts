/** The files that templates name, as Vite serves and builds them. */
import { existsSync } from 'node:fs';
import { basename, relative } from 'node:path';
import { filesBelow, isPassedOver, urlPath } from '../node/index.ts';

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
  const isLeftOut = (folder: string) => isPassedOver(folder) || folder === publicFolder || without.includes(folder);
  for (const file of filesBelow(root, isLeftOut)) {
    const path = urlPath(relative(root, file));
    const url = basename(file).startsWith('.') ? undefined : urlOf(file, path);
    if (url !== undefined) assets.set(path, url);
  }
  // What is served as it is comes first, as it does with Vite, whatever its folders are called.
  for (const file of existsSync(publicFolder) ? filesBelow(publicFolder) : []) {
    const path = urlPath(relative(publicFolder, file));
    assets.set(path, base + encodeURI(path));
  }
  return assets;
}
