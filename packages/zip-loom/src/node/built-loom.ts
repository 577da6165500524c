/** A loom of built templates under Node. */
import { assertArgument, assertOptions, needsAwait } from '../diagnostics/index.ts';
import { answeringOn, type BuiltLoomOptions, builtLoom, type Loom } from '../loom/index.ts';
import { ownOptions } from '../security/index.ts';
import { awaited, loomNames } from './awaited.ts';
import { nodeOptionTable } from './option-table.ts';
import type { NodeLoomOptions } from './options.ts';
import { nodePlatform, uploadsOf } from './platform.ts';

/**
 * Makes a loom of built templates.
 * @throws {LoomError} for modules of another version, and for helpers that they use and that are missing
 * @example const loom = await createBuiltLoom({ built, context });
 */
export function createBuiltLoom(given: BuiltLoomOptionsOnNode): Promise<Loom> {
  return needsAwait(makeLoom(given), 'createBuiltLoom(…)', loomNames);
}

/** Options of built templates, with a store of uploads as Node has them. */
export type BuiltLoomOptionsOnNode = Omit<BuiltLoomOptions, 'uploads'> & Pick<NodeLoomOptions, 'uploads'>;

async function makeLoom(given: BuiltLoomOptionsOnNode): Promise<Loom> {
  assertOptions('createBuiltLoom', given, nodeOptionTable);
  assertArgument('createBuiltLoom', 'option “built”', given?.built, nodeOptionTable.built);
  const options = uploadsOf(ownOptions(given));
  return awaited(builtLoom(options.built, options, options.mode ?? 'production', answeringOn(nodePlatform)));
}
