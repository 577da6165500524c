/** A loom of built templates under Node. */
import { assertArgument, assertOptions } from '../diagnostics/index.ts';
import { answeringOn, type BuiltLoomOptions, builtLoom, type Loom } from '../loom/index.ts';
import { ownOptions } from '../security/index.ts';
import { nodeOptionTable } from './option-table.ts';
import type { NodeLoomOptions } from './options.ts';
import { nodePlatform, uploadsOf } from './platform.ts';

/**
 * Makes a loom of built templates.
 * @throws {LoomError} for modules of another version, and for helpers that they use and that are missing
 * @example const loom = createBuiltLoom({ built, context });
 */
export function createBuiltLoom(given: Omit<BuiltLoomOptions, 'uploads'> & Pick<NodeLoomOptions, 'uploads'>): Loom {
  assertOptions('createBuiltLoom', given, nodeOptionTable);
  assertArgument('createBuiltLoom', 'option “built”', given?.built, nodeOptionTable.built);
  const options = uploadsOf(ownOptions(given));
  return builtLoom(options.built, options, options.mode ?? 'production', answeringOn(nodePlatform));
}
