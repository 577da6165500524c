/** Templates that commands write: below their folder alone, also where a link leads elsewhere, and each of them whole. */

import { existsSync, mkdirSync, realpathSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { basename, dirname, join, sep } from 'node:path';
import { LoomError } from '../diagnostics/index.ts';
import { nodeDiagnostic } from './diagnostics.ts';
import { shownPath } from './module-paths.ts';
import { pathOf } from './path-of.ts';

/**
 * Writes all texts, or none of them. A program that ends meanwhile leaves the old text of a file or the new one.
 * @param folder of the templates
 * @param texts path of a file → its new text
 * @throws {LoomError} for a file that is elsewhere
 */
export function writeTemplates(folder: string, texts: ReadonlyMap<string, string>): void {
  const places = [...texts].map(([file, text]) => ({ place: placeBelow(folder, file), text }));
  for (const { place, text } of places) {
    mkdirSync(dirname(place), { recursive: true });
    const draft = `${place}.${process.pid}.part`;
    const mode = existsSync(place) ? statSync(place).mode : undefined;
    writeFileSync(draft, text, mode === undefined ? {} : { mode });
    renameSync(draft, place);
  }
}

/**
 * Where a file is, with links followed.
 * @throws {LoomError} for what is not below the folder
 */
export function placeBelow(folder: string, file: string): string {
  const place = withoutLinks(pathOf(file));
  if (!place.startsWith(withoutLinks(pathOf(folder)) + sep))
    throw new LoomError(nodeDiagnostic('outside-file', { file: shownPath(file), place, folder: shownPath(folder) }));
  return place;
}

/** The path of what may not be there yet: its folders are followed as far as they exist. */
function withoutLinks(path: string): string {
  if (existsSync(path) || dirname(path) === path) return realpathSync(path);
  return join(withoutLinks(dirname(path)), basename(path));
}
