/** The fields that the page of a form offered, and the part of a submission that belongs to them. */
import type { RowsShown, ShownFields } from '../../kernel/index.ts';
import { formatPath, parsePath, patternOf, shapeAt } from '../schema/paths.ts';
import type { Group } from '../schema/shape.ts';
import type { ProvedEntry } from '../state.ts';
import type { Edit } from './edits.ts';
import type { Entry } from './entries.ts';

/** The fields that are read; `undefined` for all of the form. */
export type Shown = ShownFields | undefined;

/** The fields of a form that was written by hand. @param names indices left out: `crew[].name` */
export function handWritten(names: Iterable<string>): ShownFields {
  return { names: new Set(names), rows: new Map() };
}

/** The fields of several parts of one form. */
export function together([first, ...others]: readonly ShownFields[]): ShownFields {
  const names = new Set(first!.names);
  const rows = new Map(first!.rows);
  for (const other of others) {
    for (const name of other.names) names.add(name);
    for (const [list, shown] of other.rows) rows.set(list, bothRows(rows.get(list), shown));
  }
  return { ...first!, names, rows };
}

function bothRows(one: RowsShown | undefined, other: RowsShown): RowsShown {
  if (!one) return other;
  return {
    count: one.count === undefined || other.count === undefined ? undefined : Math.max(one.count, other.count),
    canAdd: one.canAdd || other.canAdd,
    origins: one.origins || other.origins,
  };
}

/** True for a field of the page, whatever its row. A list's name stands for its items, with or without brackets. */
export function isShown(name: string, shown: Shown): boolean {
  if (!shown) return true;
  const { names } = shown;
  const pattern = patternOf(name);
  return names.has(pattern) || names.has(pattern.replace(/\[\]$/, '')) || names.has(`${pattern}[]`);
}

/** True for a field of the page in a row of the page, or in a new row of a list that has a button to add one. */
export function isOffered(name: string, shown: Shown): boolean {
  if (!isShown(name, shown)) return false;
  if (!shown || shown.rows.size === 0) return true;
  for (let open = name.indexOf('['); open !== -1; open = name.indexOf('[', open + 1)) {
    const close = name.indexOf(']', open);
    const count = limitOf(name.slice(0, open), shown);
    const index = name.slice(open + 1, close);
    // `crew[]` alone says that the list was on the page.
    if (count === undefined || (index === '' && close === name.length - 1)) continue;
    if (index === '' || Number(index) >= count) return false;
  }
  return true;
}

/** How many rows a list has to which none can be added; `undefined` for any other list. */
function limitOf(list: string, { rows }: ShownFields): number | undefined {
  const shown = rows.get(list);
  return shown?.canAdd === false ? shown.count : undefined;
}

/** A row is added if the page had a button for that; else the form is only shown again. */
export function offeredEdit(edit: Edit, shown: Shown): Edit {
  if (!('path' in edit)) return edit;
  const name = formatPath(edit.kind === 'add' ? edit.path : edit.path.slice(0, -1));
  const rows = shown?.rows.get(name);
  const isOnPage = rows !== undefined || isShown(name, shown);
  return isOnPage && (edit.kind === 'remove' || rows?.canAdd !== false) ? edit : { kind: 'refresh' };
}

/** The entries that the page offered, which its token proves, and those that it did not. */
export function offeredEntries(
  entries: readonly Entry[],
  form: Group,
  shown: Shown,
  depth: number,
): { offered: ProvedEntry[]; others: Entry[] } {
  const offered: ProvedEntry[] = [];
  const others: Entry[] = [];
  for (const entry of entries) {
    const taken = isOffered(entry[0], shown) ? withSealedRows(entry, form, shown, depth) : undefined;
    if (taken) offered.push(taken as ProvedEntry);
    else others.push(entry);
  }
  return { offered, others };
}

/**
 * An entry whose claim about rows is not the sender's: which item of the model a row stands for decides about values that nobody sees.
 * `undefined` for an item that the list has no room for.
 */
export function withSealedRows(entry: Entry, form: Group, shown: Shown, depth: number): Entry | undefined {
  const [name, value] = entry;
  if (value === '' && !shown) return entry;
  const list = name.endsWith('[]') ? name.slice(0, -2) : name;
  const isLimited = shown !== undefined && limitOf(list, shown) !== undefined;
  if (list === name && !isLimited) return entry;
  const path = parsePath(list, depth);
  const shape = path && shapeAt(form, path);
  if (shape?.shape !== 'list') return entry;
  // A list of texts: one more text is one more row.
  if (shape.item.shape === 'value') return isLimited && value !== '' ? undefined : entry;
  const sealed = shown?.rows.get(list)?.origins;
  // Without a seal rows that have moved are new ones: no values of the model are mixed up.
  return [name, sealed ?? (value === '' ? '' : '+')];
}
