/** `createLoom` under Node. */
import { resolve } from 'node:path';
import { builtLoom, compiledLoom, type Loom, type LoomOptions, loomErrors, memoryStore } from '../loom/index.ts';
import { ownOptions } from '../runtime/index.ts';
import { type AssetsOption, assetFiles } from './asset-folder.ts';
import { folderStore } from './folder-store.ts';
import { nodeErrors } from './node-errors.ts';
import { placesByMaps } from './source-maps.ts';

export interface NodeLoomOptions extends Omit<LoomOptions, 'assets'> {
  /**
   * Files that templates name by relative addresses: a folder that the site serves from its root, more about it, or a map of
   * paths and addresses.
   */
  assets?: AssetsOption;
  /** The folder of templates, from the folder where the program was started. */
  templates?: string;
}

/**
 * Makes a loom from a folder of templates, from templates in memory, or from built ones.
 * @throws {LoomError} without templates, or for a folder that cannot be read
 * @throws {TemplateError} in production, for any problem in any template
 * @example const loom = await createLoom({ templates: 'templates', layouts: { '**': 'site-layout' } });
 */
export async function createLoom(given: NodeLoomOptions): Promise<Loom> {
  const options = ownOptions(given);
  const mode = options.mode ?? (process.env['NODE_ENV'] === 'development' ? 'development' : 'production');
  if (options.templates !== undefined && options.sources) {
    throw nodeErrors.templatesTwice();
  }
  if (options.built) {
    const { assets: _, ...rest } = options;
    return builtLoom(options.built, rest, mode, placesByMaps(options.built));
  }
  const templates = options.templates === undefined ? undefined : folderStore(resolve(options.templates));
  const store = templates ?? (options.sources && memoryStore(options.sources));
  if (!store) throw loomErrors.noTemplates();
  const { assets, ...rest } = options;
  return compiledLoom(assets === undefined ? store : { ...store, assets: assetFiles(assets) }, rest, mode);
}
