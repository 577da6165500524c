/** A file that takes the place of no other. */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { LoomError } from '../diagnostics/index.ts';
import { commandDiagnostic } from './diagnostics.ts';

/**
 * @param isForced whether somebody wants it all the same
 * @throws {LoomError} where there is one already
 */
export function assertNewFile(file: string, isForced: boolean): void {
  if (!isForced && existsSync(file)) throw new LoomError(commandDiagnostic('existing-file', { file }));
}

/** @throws {LoomError} as `assertNewFile` */
export function writeNewFile(file: string, text: string, isForced: boolean): void {
  assertNewFile(file, isForced);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, text);
}
