/** The files that a project’s pages name, on the disk: its folders of assets, and what a bundler made. */
import { existsSync, realpathSync, statSync } from 'node:fs';
import { basename, dirname, join, relative, sep } from 'node:path';
import { type AssetFolder, filesBelow, foldersOf, type NodeLoomOptions, pathOf, urlPath } from 'zip-loom/internal/node';

export interface ServedFile {
  /** From the root of the host, decoded: `/assets/site.css`. */
  path: string;
  file: string;
}

/** Finds files by the paths of their URLs. */
export class ServedFiles {
  private readonly folders: readonly string[];
  /** What is before all of them, such as `/static/`. */
  private readonly prefix: string;

  constructor({ assets, base = '' }: NodeLoomOptions) {
    const { folder, manifest, prefix = '/' } = assetFolderOf(assets);
    const folders = folder === undefined ? [] : foldersOf({ folder });
    const built = manifest === undefined ? [] : [builtFolder(pathOf(manifest))];
    this.folders = [...folders, ...built].filter((one) => existsSync(one));
    this.prefix = `${base}${prefix.endsWith('/') ? prefix : `${prefix}/`}`;
  }

  /** @param path decoded, from the root of the host */
  find(path: string): string | undefined {
    if (!path.startsWith(this.prefix)) return undefined;
    const below = path.slice(this.prefix.length);
    if (below.split(/[/\\]/).some(isHidden)) return undefined;
    const found = this.folders.map((folder) => ({ folder, file: join(folder, below) }));
    return found.find(({ folder, file }) => isOwnFile(folder, file))?.file;
  }

  /** All of them; hidden ones are nobody’s. */
  all(): ServedFile[] {
    if (/^[a-z]+:|^\/\//i.test(this.prefix)) return [];
    const found = new Map<string, string>();
    for (const folder of this.folders)
      for (const file of filesBelow(folder, (one) => isHidden(basename(one)))) {
        if (isHidden(basename(file))) continue;
        const path = this.prefix + urlPath(relative(folder, file));
        if (!found.has(path)) found.set(path, file);
      }
    return [...found].map(([path, file]) => ({ path, file }));
  }
}

/** `..`, `.env`, `.git`: no page names them, and some hold secrets. Files for programs are below `.well-known` (RFC 8615). */
function isHidden(segment: string): boolean {
  return segment.startsWith('.') && segment !== '.well-known';
}

/** True for a file of the folder itself: a symbolic link may lead out of it. */
function isOwnFile(folder: string, file: string): boolean {
  if (!existsSync(file) || !statSync(file).isFile()) return false;
  return realpathSync(file).startsWith(realpathSync(folder) + sep);
}

/** The option `assets` as folders; a map names none. */
export function assetFolderOf(assets: NodeLoomOptions['assets']): AssetFolder {
  if (assets === undefined || assets instanceof Map) return {};
  return typeof assets === 'string' || assets instanceof URL ? { folder: assets } : (assets as AssetFolder);
}

/** Vite writes its manifest into `.vite` below what it has built. */
function builtFolder(manifest: string): string {
  const folder = dirname(manifest);
  return basename(folder) === '.vite' ? dirname(folder) : folder;
}
