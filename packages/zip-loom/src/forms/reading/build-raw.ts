/** Names and values → a tree of texts in the shape of the form. The schema decides the shape, never the sender. */
import type { Limits } from '../limits.ts';
import { type Path, parsePath } from '../schema/paths.ts';
import { emptyRaw, type Raw, type RawGroup } from '../schema/raw.ts';
import { readRows } from '../schema/rows.ts';
import type { Group, Shape } from '../schema/shape.ts';
import type { Entry, FileEntry } from './entries.ts';

export interface RawForm {
  root: RawGroup;
  /** Names that the form does not have, or that its page did not show. */
  unknown: Map<string, string[]>;
}

/** The part of a submission that the tree is made of. */
export interface RawSource {
  entries: readonly Entry[];
  files?: readonly FileEntry[] | undefined;
  /** Entries that the page did not offer. */
  others?: readonly Entry[];
}

/**
 * Builds the tree.
 * @param keepsBlank true to keep rows without text: they are still to be filled in
 */
export function buildRaw(
  form: Group,
  { entries, files = [], others = [] }: RawSource,
  limits: Limits,
  keepsBlank = false,
): RawForm {
  const root: RawGroup = { raw: 'group', fields: new Map() };
  const unknown = new Map<string, string[]>();
  const note = (name: string, value: string) => {
    const values = unknown.get(name);
    if (values) values.push(value);
    else unknown.set(name, [value]);
  };
  for (const [name, value, isInexact] of entries) {
    const path = parsePath(name, limits.depth);
    if (!path || !put(root, form, path, value, isInexact, limits)) note(name, value);
  }
  for (const [name, value] of others) note(name, value);
  for (const file of files) {
    const path = parsePath(file.name, limits.depth);
    if (!path || !putFile(root, form, path, file, limits)) note(file.name, file.label);
  }
  return { root: closeGaps(root, keepsBlank), unknown };
}

/** Indices in a row, in the order of those that were sent. Empty texts of a list are its companion, or rows left blank. */
function closeGaps<Node extends Raw>(node: Node, keepsBlank: boolean): Node {
  if (node.raw === 'group') for (const field of node.fields.values()) closeGaps(field, keepsBlank);
  if (node.raw === 'list') {
    const sent = [...node.items].sort(([a], [b]) => a - b);
    const { saidRows } = node;
    node.items.clear();
    for (const [index, item] of sent) {
      if (isLeftOut(item, keepsBlank)) continue;
      node.items.set(node.items.size, closeGaps(item, keepsBlank));
      node.rows.push(saidRows ? saidRows[index] : index);
    }
  }
  return node;
}

function isLeftOut(item: Raw, keepsBlank: boolean): boolean {
  if (item.raw !== 'value' || item.files !== undefined) return false;
  return item.texts.every((text) => text === '') && (item.isCompanion || !keepsBlank);
}

/** Puts one text at its place; false when the form has no such place. */
function put(
  root: RawGroup,
  form: Group,
  path: Path,
  text: string,
  isInexact: true | undefined,
  limits: Limits,
): boolean {
  const last = nodeAt(root, walk(form, path), limits);
  if (last?.raw === 'value') {
    last.texts.push(text);
    if (isInexact) last.isInexact = true;
    if (text === '' && path.at(-1) === '') last.isCompanion = true;
  }
  const rows = last?.raw === 'list' ? readRows(text) : undefined;
  if (last?.raw === 'list' && rows) last.saidRows = rows;
  return last !== undefined;
}

/** Puts one file at its place; false when the form has no such place, or no file there. */
function putFile(root: RawGroup, form: Group, path: Path, file: FileEntry, limits: Limits): boolean {
  const place = walk(form, path);
  const shape = place?.at(-1)?.shape;
  if (shape?.shape !== 'value' || shape.kind !== 'file') return false;
  const last = nodeAt(root, place, limits);
  if (last?.raw === 'value') last.files = [...(last.files ?? []), file];
  return true;
}

function nodeAt(
  root: RawGroup,
  place: ReadonlyArray<{ step: string | number; shape: Shape }> | undefined,
  limits: Limits,
): Raw | undefined {
  if (!place) return undefined;
  let node: Raw = root;
  for (const { step, shape } of place) node = child(node, step, shape, limits);
  return node;
}

/** The shapes along a path; `undefined` when the path leaves the form, or ends where no text can be. */
function walk(form: Group, path: Path): Array<{ step: string | number; shape: Shape }> | undefined {
  const steps: Array<{ step: string | number; shape: Shape }> = [];
  let shape: Shape = form;
  for (const step of path) {
    let next: Shape | undefined;
    if (shape.shape === 'group' && typeof step === 'string') next = shape.fields.get(step);
    else if (shape.shape === 'list' && (typeof step === 'number' || step === '')) next = shape.item;
    if (!next) return undefined;
    steps.push({ step, shape: next });
    shape = next;
  }
  // `tags=a&tags=b` means the items of the list.
  if (shape.shape === 'list' && shape.item.shape === 'value') steps.push({ step: '', shape: shape.item });
  else if (shape.shape !== 'value') {
    // `crew[]` without a field says that the list was on the page, no more.
    if (steps.at(-1)?.step !== '') return undefined;
    steps.pop();
  }
  return steps;
}

function child(node: Raw, step: string | number, shape: Shape, limits: Limits): Raw {
  if (node.raw === 'group') return existing(node.fields, String(step), shape);
  if (node.raw !== 'list') return node;
  const index = typeof step === 'number' ? step : node.next;
  node.next = Math.max(node.next, index + 1);
  if (!node.items.has(index) && node.items.size >= limits.list) {
    node.tooLong = true;
    return emptyRaw(shape);
  }
  return existing(node.items, index, shape);
}

function existing<Key>(nodes: Map<Key, Raw>, key: Key, shape: Shape): Raw {
  let node = nodes.get(key);
  if (!node) {
    node = emptyRaw(shape);
    nodes.set(key, node);
  }
  return node;
}
