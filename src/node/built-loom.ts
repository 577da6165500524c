/** A loom of built templates under Node. */
import { assertArgument, assertOptions } from '../diagnostics/index.ts';
import { type BuiltLoomOptions, builtLoom, type Loom } from '../loom/index.ts';
import { ownOptions } from '../security/index.ts';
import { nodeCodes } from './codes.ts';
import { nodeOptionTable } from './option-table.ts';

/**
 * Makes a loom of built templates.
 * @throws {LoomError} for modules of another version, and for helpers that they use and that are missing
 * @example const loom = createBuiltLoom({ built, context });
 */
export function createBuiltLoom(given: BuiltLoomOptions): Loom {
  assertOptions('createBuiltLoom', given, nodeOptionTable);
  assertArgument('createBuiltLoom', 'option “built”', given?.built, nodeOptionTable.built);
  const options = ownOptions(given);
  return builtLoom(options.built, options, options.mode ?? 'production', nodeCodes);
}
