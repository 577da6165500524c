/** `createLoom` under Node. */
import { resolve } from 'node:path';
import { type Loom, LoomError, type LoomOptions, loomErrors, loomFrom, memoryStore } from '../loom/index.ts';
import { folderStore } from './folder-store.ts';

export interface NodeLoomOptions extends LoomOptions {
  /** The folder of templates, from the folder where the program was started. */
  templates?: string;
}

/**
 * Makes a loom from a folder of templates, or from templates in memory.
 * @throws {LoomError} without templates, or for a folder that cannot be read
 * @throws {TemplateError} in production, for any problem in any template
 * @example const loom = await createLoom({ templates: 'templates', layouts: { '**': 'site-layout' } });
 */
export async function createLoom(options: NodeLoomOptions): Promise<Loom> {
  const mode = options.mode ?? (process.env['NODE_ENV'] === 'development' ? 'development' : 'production');
  if (options.templates !== undefined && options.sources) {
    throw new LoomError('templates-twice', 'A loom takes “templates” or “sources”, not both.');
  }
  if (options.templates !== undefined) return loomFrom(folderStore(resolve(options.templates)), options, mode);
  if (options.sources) return loomFrom(memoryStore(options.sources), options, mode);
  throw loomErrors.noTemplates();
}
