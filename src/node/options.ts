/** What a loom is made with under Node. */
import type { LoomOptions } from '../loom/index.ts';
import type { AssetsOption } from './asset-folder.ts';

export interface NodeLoomOptions extends Omit<LoomOptions, 'assets'> {
  /**
   * Files that templates name by relative URLs: a folder that the site serves from its root, more about it, or a map of
   * paths and URLs.
   */
  assets?: AssetsOption;
  /** The folder of templates: its path from the folder where the program was started, or a file URL. */
  templates?: string | URL;
}
