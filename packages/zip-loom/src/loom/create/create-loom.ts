/** `createLoom` wherever there is neither a file system nor cryptography of the platform’s that answers at once. */
import { assertOptions } from '../../diagnostics/index.ts';
import { ownOptions, portableCodes } from '../../security/index.ts';
import type { Loom } from './loom.ts';
import { memoryLoom } from './memory-loom.ts';
import { portableOptionTable } from './option-table.ts';
import type { LoomOptions } from './options.ts';

/**
 * Makes a loom from templates in memory: in the browser, and in tests; or from built ones.
 * @throws {LoomError} without `sources` and `built`, and for options that are none
 * @throws {TemplateError} in production, for any error in any template
 */
export async function createLoom(given: LoomOptions): Promise<Loom> {
  assertOptions('createLoom', given, portableOptionTable);
  return memoryLoom(ownOptions(given), { codes: portableCodes });
}
