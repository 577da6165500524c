/** A file that takes the place of no other. */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { shownPath } from 'zip-loom/internal/node';
import { commandDiagnostic } from '../console/index.ts';

/**
 * @param isForced whether somebody wants it all the same
 * @throws {LoomError} where there is one already
 */
export function assertNewFile(file: string, isForced: boolean): void {
  if (!isForced && existsSync(file)) throw new LoomError(commandDiagnostic('existing-file', { file: shownPath(file) }));
}

/** @throws {LoomError} as `assertNewFile` */
export function writeNewFile(file: string, text: string, isForced: boolean): void {
  assertNewFile(file, isForced);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, text);
}
