/** What was sent, as a tree of texts in the shape of the form. */
import type { FileEntry } from '../reading/entries.ts';
import type { Path } from './paths.ts';

/** What was sent for one field. */
export type Raw = RawValue | RawList | RawGroup;

export interface RawValue {
  raw: 'value';
  /** Files, for a field that takes one. */
  files?: FileEntry[];
  /** In the order of the submission. */
  texts: string[];
  /** A number came that cannot be held exactly. */
  isInexact?: true;
}

export interface RawList {
  raw: 'list';
  /** By the index that was sent; gaps are closed up later, in order. */
  items: Map<number, Raw>;
  tooLong: boolean;
}

export interface RawGroup {
  raw: 'group';
  fields: Map<string, Raw>;
}

/** What was sent at a path, or `undefined`. */
export function rawAt(root: RawGroup, path: Path): Raw | undefined {
  let node: Raw | undefined = root;
  for (const step of path) {
    if (node?.raw === 'group') node = node.fields.get(String(step));
    else if (node?.raw === 'list' && typeof step === 'number') node = node.items.get(step);
    else return undefined;
  }
  return node;
}
