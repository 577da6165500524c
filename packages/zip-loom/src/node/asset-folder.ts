/** Files that templates name: a folder that is served as it is, and what a bundler made of others. */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, posix, relative } from 'node:path';
import { LoomError } from '../diagnostics/index.ts';
import type { AssetFiles } from '../loom/index.ts';
import { nodeDiagnostic, reasonOf } from './diagnostics.ts';
import { urlPath } from './module-paths.ts';
import { pathOf } from './path-of.ts';

/** Where the files are that templates name, and where they are served. */
export interface AssetFolder {
  /** Files that are served as they are, from the folder where the program was started, or by a file URL. One folder or several. */
  folder?: string | URL | ReadonlyArray<string | URL>;
  /** The manifest of Vite (`build.manifest`): names of sources → names with a hash. */
  manifest?: string | URL;
  /** Where the site serves both: a path from the root, such as `/static`, or an absolute URL. Default: `/`. */
  prefix?: string;
}

/** What the option `assets` may be: a folder, more about it, or a map of paths and URLs. */
export type AssetsOption = string | URL | AssetFolder | AssetFiles;

/** The files of the option `assets`, as they are whenever they are asked for. */
export function assetFiles(assets: AssetsOption): () => AssetFiles {
  if (isMap(assets)) return () => assets;
  return assetFolder(typeof assets === 'string' || assets instanceof URL ? { folder: assets } : assets);
}

/** The folders of the option. */
export function foldersOf({ folder = [] }: AssetFolder): string[] {
  return (Array.isArray(folder) ? folder : [folder]).map(pathOf);
}

function isMap(assets: AssetsOption): assets is AssetFiles {
  return assets instanceof Map;
}

/**
 * Reads the files; again when one was added or taken away, or the manifest has changed.
 * @throws {LoomError} when a folder or the manifest cannot be read
 */
function assetFolder({ folder, manifest, prefix: given = '/' }: AssetFolder): () => AssetFiles {
  const folders = foldersOf(folder === undefined ? {} : { folder });
  const manifestFile = manifest === undefined ? undefined : pathOf(manifest);
  const prefix = given.endsWith('/') ? given : `${given}/`;
  let version = '';
  let files: AssetFiles = new Map();
  return () => {
    const listed = folders.map((one) => [one, listFolder(one)] as const);
    // A folder’s own time tells of files that came and went.
    const now = [...listed.flatMap(([, { times }]) => times), manifestFile ? timeOfManifest(manifestFile) : ''].join();
    if (now === version) return files;
    version = now;
    const served = listed.flatMap(([one, { paths }]) => paths.map((path) => pathBelow(one, path)));
    files = new Map([
      ...served.map((path): [string, string] => [path, prefix + encodeURI(path)]),
      ...(manifestFile ? readManifest(manifestFile, prefix) : []),
    ]);
    return files;
  };
}

function listFolder(folder: string): { paths: string[]; times: string[] } {
  try {
    const paths: string[] = [];
    const times = [timeOf(folder)];
    for (const entry of readdirSync(folder, { withFileTypes: true, recursive: true })) {
      const path = join(entry.parentPath, entry.name);
      if (entry.isDirectory()) times.push(timeOf(path));
      else paths.push(path);
    }
    return { paths: paths.sort(), times };
  } catch (error) {
    throw new LoomError(
      nodeDiagnostic('unreadable-assets', { what: 'folder', path: folder, reason: reasonOf(error) }),
      error,
    );
  }
}

/** Vite’s manifest: `{ "styles/site.css": { "file": "assets/site-4f3a.css" } }`. */
function readManifest(file: string, prefix: string): Array<[string, string]> {
  let parsed: unknown;
  try {
    parsed = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw new LoomError(
      nodeDiagnostic('unreadable-assets', { what: 'manifest', path: file, reason: reasonOf(error) }),
      error,
    );
  }
  return Object.entries(parsed as Record<string, { file?: unknown }>).flatMap(
    ([name, entry]): Array<[string, string]> =>
      typeof entry?.file === 'string' ? [[posix.normalize(name), prefix + encodeURI(entry.file)]] : [],
  );
}

function timeOfManifest(file: string): string {
  try {
    return timeOf(file);
  } catch (error) {
    throw new LoomError(
      nodeDiagnostic('unreadable-assets', { what: 'manifest', path: file, reason: reasonOf(error) }),
      error,
    );
  }
}

function timeOf(path: string): string {
  return String(statSync(path).mtimeMs);
}

function pathBelow(folder: string, path: string): string {
  return urlPath(relative(folder, path));
}
