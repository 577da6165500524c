/** What a loom is made with under Node. */
import type { UploadStore } from '../forms/index.ts';
import type { LoomOptions } from '../loom/index.ts';
import type { AssetsOption } from './asset-folder.ts';

/** What a loom is made with under Node. */
export interface NodeLoomOptions extends Omit<LoomOptions, 'assets' | 'paths' | 'uploads'> {
  /**
   * Files that templates name by relative URLs: a folder that the site serves from its root, more about it, or a map of
   * paths and URLs.
   */
  assets?: AssetsOption;
  /**
   * Paths that the site answers, such as `/berths/:id` or `/files/*`, or the folder of its static pages, where `about.html` is `/about`
   * too. With them, `zip-loom check` tells of links and forms that lead nowhere. Pages are rendered without a look at them.
   */
  paths?: readonly string[] | string | URL;
  /** The folder of templates: its path from the folder where the program was started, or a file URL. */
  templates?: string | URL;
  /**
   * Where uploaded files are kept until a handler has taken them: a folder that only this user can look into, or a store such as one
   * that several machines share. Default: a folder of the system for temporary files.
   */
  uploads?: string | URL | UploadStore;
}
