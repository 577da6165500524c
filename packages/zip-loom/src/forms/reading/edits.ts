import { formatPath, type Path, parsePath, shapeAt } from '../schema/paths.ts';
import { emptyRaw, modelValueAt, type Raw, type RawGroup, type RawList } from '../schema/raw.ts';
import { rowCount } from '../schema/rows.ts';
import type { Group, List } from '../schema/shape.ts';

/** What the visitor asked for. */
export type Edit = { kind: 'add' | 'remove'; path: Path } | { kind: 'refresh' } | { kind: 'back' };

/** What came of it. */
export interface Edited {
  /** Where the focus goes: a row, or the button that adds one. */
  focus?: string | undefined;
  /** Why the list stays as it is. */
  fault?: { path: Path; code: 'too-many' | 'too-few'; limit: number };
}

/** What a button asks for, as its value says. Whatever it says, it was not pressed to send the form off. */
export function editMeant(text: string, depth: number): Edit {
  return readEdit(text, depth) ?? { kind: 'refresh' };
}

/** `undefined` for a text that is none. */
export function readEdit(text: string, depth: number): Edit | undefined {
  if (text === 'refresh' || text === 'back') return { kind: text };
  const [, kind, name = ''] = /^(add|remove) (.*)$/s.exec(text) ?? [];
  const path = kind === undefined ? undefined : parsePath(name, depth);
  return path && { kind: kind as 'add' | 'remove', path };
}

/**
 * Adds or removes a row of what was sent.
 * @param most how many rows a list may have, whatever its schema says
 */
export function changeRows(
  root: RawGroup,
  form: Group,
  { kind, path }: Extract<Edit, { path: Path }>,
  { model, most }: { model: unknown; most: number },
): Edited {
  const listPath = kind === 'add' ? path : path.slice(0, -1);
  const shape = shapeAt(form, listPath);
  const list = shape?.shape === 'list' ? listAt(root, form, listPath, model) : undefined;
  if (shape?.shape !== 'list' || !list) return {};
  return kind === 'add' ? addRow(list, shape, listPath, most) : removeRow(list, shape, listPath, path.at(-1));
}

function addRow(list: RawList, shape: List, path: Path, most: number): Edited {
  const index = list.items.size;
  const limit = Math.min(shape.maximum ?? most, most);
  if (index >= limit) return { fault: { path, code: 'too-many', limit } };
  const row = emptyRaw(shape.item);
  // A text that is empty, not one that was not sent.
  if (row.raw === 'value') row.texts.push('');
  list.items.set(index, row);
  list.rows.push(undefined);
  return { focus: `${formatPath(path)}[${index}]` };
}

function removeRow(list: RawList, shape: List, path: Path, index: string | number | undefined): Edited {
  if (typeof index !== 'number' || !list.items.has(index)) return {};
  const limit = shape.required ? (shape.minimum ?? 0) : 0;
  if (list.items.size <= limit) return { fault: { path, code: 'too-few', limit } };
  const left = [...list.items.values()].filter((_, at) => at !== index);
  list.items = new Map(left.entries());
  list.rows.splice(index, 1);
  const next = Math.min(index, left.length - 1);
  return { focus: next < 0 ? `add ${formatPath(path)}` : `${formatPath(path)}[${next}]` };
}

/** The list at a path, with the rows that the page showed, where none were sent; `undefined` where there is no such row around it. */
function listAt(root: RawGroup, form: Group, path: Path, model: unknown): RawList | undefined {
  let node: Raw = root;
  for (const [at, step] of path.entries()) {
    const here = path.slice(0, at + 1);
    const shape = shapeAt(form, here)!;
    const children: Map<string | number, Raw> | undefined =
      node.raw === 'group' ? node.fields : node.raw === 'list' ? (node.items as Map<string | number, Raw>) : undefined;
    let next: Raw | undefined = children?.get(step);
    if (!next) {
      if (node.raw !== 'group') return undefined;
      next = emptyRaw(shape);
      if (next.raw === 'list' && shape.shape === 'list') {
        const rows = rowCount(shape, undefined, modelValueAt(model, root, here));
        for (let row = 0; row < rows; row++) {
          next.items.set(row, emptyRaw(shape.item));
          next.rows.push(row);
        }
      }
      node.fields.set(String(step), next);
    }
    node = next;
  }
  return node.raw === 'list' ? node : undefined;
}

/** Ticks the boxes of all rows that were sent, where the box for all of them is ticked. */
export function tickAll(root: RawGroup, form: Group, boxes: Iterable<string>, depth: number): void {
  for (const name of boxes) {
    const path = parsePath(name, depth);
    const shape = path && shapeAt(form, path);
    if (path && shape?.shape === 'value' && shape.kind === 'boolean') tick(root, path);
  }
}

function tick(node: Raw, path: Path): void {
  const [step, ...rest] = path;
  if (step === undefined) {
    if (node.raw === 'value') node.texts = ['true'];
  } else if (node.raw === 'list') {
    for (const item of node.items.values()) tick(item, rest);
  } else if (node.raw === 'group') {
    const next = node.fields.get(String(step));
    if (next) tick(next, rest);
  }
}
