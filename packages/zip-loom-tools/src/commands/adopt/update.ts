/** A new version of the pages, laid upon templates that somebody may have changed since. */
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { placeBelow, writeTemplates } from 'zip-loom/internal/node';
import { digestOf } from './record.ts';

export type FileFate =
  /** The designer’s change is in it. */
  | 'updated'
  | 'added'
  | 'removed'
  /** It is as it was written, and stays so. */
  | 'same'
  /** Somebody has changed it, and the designer has not. */
  | 'kept'
  /** Both have. */
  | 'conflict';

/**
 * @param written digests of what was written the last time
 * @param fresh what would be written now
 * @param isPlan whether nothing is to be written
 * @throws {LoomError} for a file outside the templates, with nothing written
 */
export function updateFiles(
  templates: string,
  written: Readonly<Record<string, string>>,
  fresh: Readonly<Record<string, string>>,
  isPlan: boolean,
): Map<string, FileFate> {
  const fates = new Map<string, FileFate>();
  const texts = new Map<string, string>();
  const gone: string[] = [];
  for (const path of new Set([...Object.keys(fresh), ...Object.keys(written)])) {
    const file = join(templates, path);
    const present = existsSync(file) ? readFileSync(file, 'utf8') : undefined;
    const fate = fateOf(present, written[path], fresh[path]);
    fates.set(path, fate);
    if (fate === 'updated' || fate === 'added') texts.set(file, fresh[path]!);
    // A record that somebody has changed may name files elsewhere.
    else if (fate === 'removed') gone.push(placeBelow(templates, file));
  }
  if (isPlan) return fates;
  writeTemplates(templates, texts);
  for (const file of gone) rmSync(file, { force: true });
  return fates;
}

function fateOf(present: string | undefined, written: string | undefined, fresh: string | undefined): FileFate {
  if (present === fresh) return 'same';
  const isUntouched = (present === undefined ? undefined : digestOf(present)) === written;
  if (isUntouched) {
    if (fresh === undefined) return 'removed';
    return present === undefined ? 'added' : 'updated';
  }
  const isUnchanged = (fresh === undefined ? undefined : digestOf(fresh)) === written;
  return isUnchanged ? 'kept' : 'conflict';
}
