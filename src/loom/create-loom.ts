/** `createLoom` wherever there is no file system. */

import { LoomError } from '../diagnostics/index.ts';
import { type Codes, ownOptions, portableCodes } from '../security/index.ts';
import { builtLoom } from './built-loom.ts';
import { compiledLoom } from './compiled-loom.ts';
import { loomDiagnostic } from './diagnostics.ts';
import type { Loom } from './loom.ts';
import { type LoomOptions, memoryStore } from './options.ts';

/**
 * Makes a loom from templates in memory: in the browser, and in tests; or from built ones.
 * @throws {LoomError} without `sources` and `built`
 * @throws {TemplateError} in production, for any error in any template
 */
export async function createLoom(given: LoomOptions): Promise<Loom> {
  return memoryLoom(ownOptions(given), portableCodes);
}

/** As `createLoom`, with the cryptography of a platform. */
export function memoryLoom(options: LoomOptions, codes: Codes): Loom {
  if (options.built) return builtLoom(options.built, options, options.mode ?? 'production', codes);
  if (!options.sources) throw new LoomError(loomDiagnostic('missing-templates'));
  return compiledLoom(memoryStore(options.sources), options, options.mode ?? 'production', codes);
}
