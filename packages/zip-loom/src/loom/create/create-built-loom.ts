/** `createBuiltLoom` wherever there is no cryptography of the platform’s that answers at once: in browsers above all. */
import { assertArgument, assertOptions } from '../../diagnostics/index.ts';
import { ownOptions } from '../../security/index.ts';
import { type BuiltLoomOptions, builtLoom } from './built-loom.ts';
import { lateAnswering } from './late-answering.ts';
import type { Loom } from './loom.ts';
import { loomOptionTable } from './option-table.ts';

/**
 * Makes a loom of built templates.
 * @throws {LoomError} for modules of another version, and for helpers that they use and that are missing
 * @example const loom = await createBuiltLoom({ built, context });
 */
export async function createBuiltLoom(given: BuiltLoomOptions): Promise<Loom> {
  assertOptions('createBuiltLoom', given, loomOptionTable);
  assertArgument('createBuiltLoom', 'option “built”', given?.built, loomOptionTable.built);
  const options = ownOptions(given);
  return builtLoom(options.built, options, options.mode ?? 'production', lateAnswering);
}
