/** What was sent, as a tree of texts in the shape of the form. */
import type { FileEntry } from '../reading/entries.ts';
import { type Path, valueAt } from './paths.ts';
import type { Shape } from './shape.ts';

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
  /** No text of a row: only that the list was on the page. */
  isCompanion?: boolean;
}

export interface RawList {
  raw: 'list';
  /** By the index that was sent; gaps are closed up later, in order. */
  items: Map<number, Raw>;
  /** The index of an item that comes without one. */
  next: number;
  tooLong: boolean;
  /** Which item of the model each row stands for; nothing for a row that is new. By place, once gaps are closed up. */
  rows: Array<number | undefined>;
  /** What the page said of that, by the index that was sent, where rows were added or removed before. */
  saidRows?: ReadonlyArray<number | undefined>;
}

export interface RawGroup {
  raw: 'group';
  fields: Map<string, Raw>;
}

/** What was sent at a path, or `undefined`. */
export function rawAt(root: RawGroup, path: Path): Raw | undefined {
  let node: Raw | undefined = root;
  for (const step of path) node = node && childOf(node, step);
  return node;
}

/** The model’s value at a path of what was sent; only own properties count, and rows may have moved since. */
export function modelValueAt(model: unknown, root: RawGroup | undefined, path: Path): unknown {
  if (!root) return valueAt(model, path);
  let found = model;
  let node: Raw | undefined = root;
  for (const step of path) {
    const key: string | number | undefined = node?.raw === 'list' && typeof step === 'number' ? node.rows[step] : step;
    if (key === undefined || typeof found !== 'object' || found === null || !Object.hasOwn(found, key))
      return undefined;
    found = (found as Record<string | number, unknown>)[key];
    node = node && childOf(node, step);
  }
  return found;
}

function childOf(node: Raw, step: string | number): Raw | undefined {
  if (node.raw === 'group') return node.fields.get(String(step));
  return node.raw === 'list' && typeof step === 'number' ? node.items.get(step) : undefined;
}

/** Nothing yet, for a field of that shape. */
export function emptyRaw(shape: Shape): Raw {
  switch (shape.shape) {
    case 'value':
      return { raw: 'value', texts: [] };
    case 'list':
      return { raw: 'list', items: new Map(), next: 0, tooLong: false, rows: [] };
    case 'group':
      return { raw: 'group', fields: new Map() };
  }
}
