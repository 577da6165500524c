/** The options of a loom under Node: what each may be. */
import {
  either,
  groupOf,
  listOf,
  type OptionKind,
  type OptionTable,
  someText,
  withMethods,
} from '../diagnostics/index.ts';
import { loomOptionTable } from '../loom/index.ts';
import type { NodeLoomOptions } from './options.ts';

const fileURL: OptionKind = {
  words: 'a file URL',
  holds: (value) => value instanceof URL && value.protocol === 'file:',
};

const place = either(someText, fileURL);

const prefix: OptionKind = {
  words: 'a path that begins with “/”, or an absolute URL',
  holds: (value) => typeof value === 'string' && /^(?:\/(?!\/)|https?:\/\/)/.test(value),
};

export const nodeOptionTable: OptionTable<NodeLoomOptions> = {
  ...loomOptionTable,
  templates: place,
  paths: either(place, loomOptionTable.paths),
  uploads: either(place, loomOptionTable.uploads),
  assets: either(
    place,
    withMethods('a Map of paths and URLs', 'get', 'entries'),
    groupOf({ folder: either(place, listOf(place)), manifest: place, prefix }),
  ),
};
