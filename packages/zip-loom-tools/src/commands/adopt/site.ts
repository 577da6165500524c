/** The pages of a static site, with their links as templates have them. */
import { existsSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { urlPath } from 'zip-loom/internal/node';
import { relinked } from '../../analysis/index.ts';
import { commandDiagnostic } from '../../console/index.ts';
import { htmlPaths, linkedHTML, readHTML } from '../../project/index.ts';

export interface Site {
  /** By path without the ending. */
  pages: Map<string, { source: string; bytes: number }>;
  leftOut: Array<{ path: string; reason: string }>;
  links: number;
  files: number;
}

/** @throws {LoomError} where the folder cannot be read, has no page, or two of one name */
export function readSite(folder: string, onRead: (done: number, all: number) => void): Site {
  const paths = htmlPaths(folder);
  const site: Site = { pages: new Map(), leftOut: [], links: 0, files: 0 };
  const sources = new Map<string, string>();
  paths.forEach((file, at) => {
    const path = nameOf(folder, file);
    const { source, reason } = readHTML(file);
    if (source === undefined) site.leftOut.push({ path, reason: reason! });
    else if (sources.has(path)) throw new LoomError(commandDiagnostic('duplicate-page', { path }));
    else sources.set(path, source);
    onRead(at + 1, paths.length);
  });
  for (const link of linkedHTML(folder))
    site.leftOut.push({ path: nameOf(folder, link), reason: 'it is a symbolic link' });
  const names = new Set(sources.keys());
  const isFile = (path: string) => existsSync(join(folder, path)) && statSync(join(folder, path)).isFile();
  for (const [path, source] of sources) {
    const linked = relinked(source, path, names, isFile);
    site.pages.set(path, { source: linked.source, bytes: Buffer.byteLength(source) });
    site.links += linked.links;
    site.files += linked.files;
  }
  return site;
}

/** The path of a page below the folder, without its ending. */
function nameOf(folder: string, file: string): string {
  return urlPath(relative(folder, file)).replace(/\.html?$/i, '');
}
