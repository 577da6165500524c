/** `createLoom` under Node. */

import { assertOptions, LoomError, needsAwait } from '../diagnostics/index.ts';
import {
  answeringOn,
  builtLoom,
  compiledLoom,
  type Loom,
  memoryLoom,
  memoryStore,
  tracingLoom,
} from '../loom/index.ts';
import { ownOptions } from '../security/index.ts';
import { assetFiles } from './asset-folder.ts';
import { atCaller } from './at-caller.ts';
import { awaited, loomNames } from './awaited.ts';
import { developmentSecret } from './development-secret.ts';
import { nodeDiagnostic } from './diagnostics.ts';
import { folderStore } from './folder-store.ts';
import { modeOf } from './mode.ts';
import { nodeOptionTable } from './option-table.ts';
import type { NodeLoomOptions } from './options.ts';
import { pathOf } from './path-of.ts';
import { nodePlatform, uploadsOf } from './platform.ts';
import { placesByMaps } from './source-maps.ts';

/**
 * Makes a loom from a folder of templates, from templates in memory, or from built ones.
 * @throws {LoomError} without templates, or for a folder that cannot be read
 * @throws {TemplateError} in production, for any error in any template
 * @example const loom = await createLoom({ templates: 'templates', layouts: { '**': 'site-layout' } });
 */
export function createLoom(given: NodeLoomOptions): Promise<Loom> {
  const made = makeLoom(given).then(awaited, (error: unknown) => {
    throw atCaller(error);
  });
  return needsAwait(made, 'createLoom(…)', loomNames);
}

async function makeLoom(given: NodeLoomOptions): Promise<Loom> {
  assertOptions('createLoom', given, nodeOptionTable);
  // Links are looked at by the tools alone.
  const { paths: _paths, ...own } = ownOptions(given);
  const options = uploadsOf(own);
  const mode = modeOf(options);
  if (options.templates !== undefined && options.sources) {
    throw new LoomError(nodeDiagnostic('duplicate-templates'));
  }
  if (options.built) {
    const { assets: _, ...rest } = options;
    return builtLoom(options.built, rest, mode, answeringOn(nodePlatform), placesByMaps(options.built));
  }
  const { store, rest } = storeOf(options);
  if (mode === 'development' && options.templates !== undefined && options.secret === undefined) {
    const secret = developmentSecret(pathOf(options.templates));
    if (secret !== undefined) rest.secret = secret;
  }
  return store ? compiledLoom(store, rest, mode, nodePlatform) : memoryLoom(rest, nodePlatform);
}

/**
 * A loom in development that marks in all that it renders which template and which line made it.
 * @throws {LoomError} for a folder that cannot be read
 */
export async function createTracingLoom(given: NodeLoomOptions): Promise<Loom> {
  const { paths: _paths, ...options } = ownOptions(given);
  const { store, rest } = storeOf(uploadsOf(options));
  return store ? tracingLoom(store, rest, nodePlatform) : memoryLoom(rest, nodePlatform);
}

/** Where the templates and the files that they name come from. */
function storeOf({ assets, ...rest }: ReturnType<typeof uploadsOf<Omit<NodeLoomOptions, 'paths'>>>) {
  const folder = rest.templates === undefined ? undefined : folderStore(pathOf(rest.templates));
  const store = folder ?? (rest.sources && memoryStore(rest.sources));
  return { store: store && (assets === undefined ? store : { ...store, assets: assetFiles(assets) }), rest };
}
