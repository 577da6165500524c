/** `createLoom` wherever there is no file system. */
import { ownOptions } from '../runtime/index.ts';
import { builtLoom } from './built-loom.ts';
import { compiledLoom } from './compiled-loom.ts';
import type { Loom } from './loom.ts';
import { loomErrors } from './loom-error.ts';
import { type LoomOptions, memoryStore } from './options.ts';

/**
 * Makes a loom from templates in memory: in the browser, and in tests; or from built ones.
 * @throws {LoomError} without `sources` and `built`
 * @throws {TemplateError} in production, for any problem in any template
 */
export async function createLoom(given: LoomOptions): Promise<Loom> {
  const options = ownOptions(given);
  if (options.built) return builtLoom(options.built, options, options.mode ?? 'production');
  if (!options.sources) throw loomErrors.noTemplates();
  return compiledLoom(memoryStore(options.sources), options, options.mode ?? 'production');
}
