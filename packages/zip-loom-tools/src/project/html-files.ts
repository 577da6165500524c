/** The HTML files of a folder, templates or not. */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { LoomError, messageOf } from 'zip-loom/internal/diagnostics';
import { parseTemplate, type TemplateTree } from 'zip-loom/internal/language';
import { filesBelow, isPassedOver, shownPath } from 'zip-loom/internal/node';
import { commandDiagnostic } from '../console/index.ts';

/** Larger ones are no pages that somebody wrote. */
const largest = 8_000_000;

export interface HTMLFiles {
  trees: TemplateTree[];
  /** Files that were left out, and why. */
  leftOut: Array<{ file: string; reason: string }>;
}

/** The paths of HTML files below a folder. @throws {LoomError} where the folder cannot be read, or has none */
export function htmlPaths(folder: string): string[] {
  const paths = readFolder(folder).filter((file) => /\.html?$/i.test(file));
  if (paths.length === 0) throw new LoomError(commandDiagnostic('empty-folder', { folder: shownPath(folder) }));
  return paths;
}

/** HTML files that are links: what they lead to may be anywhere. */
export function linkedHTML(folder: string): string[] {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isSymbolicLink() && /\.html?$/i.test(entry.name))
    .map((entry) => join(entry.parentPath, entry.name))
    .filter((path) => !relative(folder, dirname(path)).split(sep).some(isPassedOver));
}

/** The text of a file, or why it is none. */
export function readHTML(path: string): { source?: string; reason?: string } {
  const source = readFileSync(path, 'utf8').replace(/^\ufeff/, '');
  if (source.length > largest) return { reason: 'it is larger than 8 MB' };
  return source.includes('\0') ? { reason: 'it is no text' } : { source };
}

/**
 * The files as trees.
 * @param onRead told how many files were read, of how many
 * @throws {LoomError} where the folder cannot be read, or has none
 */
export function htmlFiles(folder: string, onRead: (done: number, all: number) => void): HTMLFiles {
  const paths = htmlPaths(folder);
  const found: HTMLFiles = { trees: [], leftOut: [] };
  paths.forEach((path, at) => {
    const file = shownPath(path);
    const { source, reason } = readHTML(path);
    if (source === undefined) found.leftOut.push({ file, reason: reason! });
    else {
      const { tree, diagnostics } = parseTemplate(source, file);
      const [first] = diagnostics;
      if (first) found.leftOut.push({ file, reason: `line ${tree.lines.at(first.span.start).line}: ${first.message}` });
      else found.trees.push(tree);
    }
    onRead(at + 1, paths.length);
  });
  return found;
}

function readFolder(folder: string): string[] {
  try {
    return filesBelow(folder, isPassedOver);
  } catch (error) {
    throw new LoomError(
      commandDiagnostic('unreadable-folder', { folder: shownPath(folder), reason: messageOf(error) }),
      error,
    );
  }
}
