/** What was adopted: names that somebody may change, and what was written, so that a new version of the pages can be told from changes since. */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { LoomError, messageOf } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import type { AdoptedNames } from '../../analysis/index.ts';
import { commandDiagnostic } from '../../console/index.ts';

export interface AdoptionRecord {
  /** Guessed name → the name that is used. */
  names: AdoptedNames;
  /** Near misses, by name, that are as they are on most pages. */
  accepted: readonly string[];
  /** By path below the folder of templates: a digest of what was written. */
  files: Record<string, string>;
}

export const recordFile = 'adopted.json';

/**
 * `undefined` where nothing was adopted.
 * @throws {LoomError} for a file that is no record
 */
export function readRecord(out: string): AdoptionRecord | undefined {
  const file = join(out, recordFile);
  if (!existsSync(file)) return undefined;
  try {
    const record = JSON.parse(readFileSync(file, 'utf8')) as Partial<AdoptionRecord>;
    const { accepted = [] } = record;
    if (!Array.isArray(accepted)) throw new Error('“accepted” is a list of names');
    return { names: textsOf(record.names), accepted: accepted.map(String), files: textsOf(record.files) };
  } catch (error) {
    throw new LoomError(
      commandDiagnostic('invalid-record', { file: shownPath(file), reason: messageOf(error) }),
      error,
    );
  }
}

function textsOf(given: unknown): Record<string, string> {
  if (typeof given !== 'object' || given === null || Object.values(given).some((one) => typeof one !== 'string'))
    throw new Error('“names” and “files” are objects of texts');
  return given as Record<string, string>;
}

/** @param record with the texts of the templates in place of their digests */
export function writeRecord(
  out: string,
  { names, accepted, files }: Pick<AdoptionRecord, 'names' | 'accepted' | 'files'>,
): void {
  const digests = Object.fromEntries(Object.entries(files).map(([path, text]) => [path, digestOf(text)]));
  writeFileSync(join(out, recordFile), `${JSON.stringify({ names, accepted, files: digests }, null, 2)}\n`);
}

export function digestOf(text: string): string {
  return createHash('sha256').update(text).digest('base64url');
}
