/** Objects in the data of a page, wherever they are in it. */
import { type Bindable, bindable } from '../../kernel/index.ts';

/** So many objects are looked into: data may lead to the whole of a program. Lists count by their items. */
const mostObjects = 100_000;

/** After so many rows of a list, the names that are read by functions are known. */
const knownAfter = 4;

type Visitor = (value: object) => void;

/**
 * Calls `visitor` for every object in the data: in lists, maps, plain objects and instances of classes. No function of the data is
 * called: a getter may be a way to fetch only what is read, or fail.
 * @param visitRow called for the records of lists, which are many, instead of `visitor`
 * @returns the forms that were met
 */
export function visitObjects(data: object, visitor: Visitor, visitRow?: Visitor): Set<Bindable> {
  const forms = new Set<Bindable>();
  const seen = new Set<object>([data]);
  const waiting: object[] = [data];
  let left = mostObjects;
  const meet = (value: unknown) => {
    if (typeof value !== 'object' || value === null || seen.has(value)) return;
    seen.add(value);
    visitor(value);
    waiting.push(value);
  };
  for (let at = 0; at < waiting.length && left > 0; at++) {
    left -= 1;
    try {
      left -= look(waiting[at]!, meet, visitRow, forms);
    } catch {
      // Something that only behaves like an object, as a proxy.
    }
  }
  return forms;
}

/** Meets the values of one object, and says how many of them were looked into at once. */
function look(
  one: object,
  meet: (value: unknown) => void,
  visitRow: Visitor | undefined,
  forms: Set<Bindable>,
): number {
  if (Array.isArray(one)) return lookAtRows(one, meet, visitRow);
  if (one instanceof Map || one instanceof Set) {
    for (const value of one.values()) meet(value);
  } else if (bindable in one) {
    // Of a form only the model is data; its schema is as large as a program.
    forms.add(one as Bindable);
    meet((one as Bindable).given);
  } else if (!ArrayBuffer.isView(one)) {
    for (const name of Object.keys(one)) meet(Object.getOwnPropertyDescriptor(one, name)?.value);
  }
  return 0;
}

/**
 * Rows of a list are mostly alike, and many: they are looked into as they come, and only what they hold is remembered.
 * @returns how many of them were looked into
 */
function lookAtRows(rows: readonly unknown[], meet: (value: unknown) => void, visitRow: Visitor | undefined): number {
  const accessors = new Set<string>();
  let looked = 0;
  for (const row of rows) {
    if (typeof row !== 'object' || row === null) continue;
    if (!isRecord(row)) {
      meet(row);
      continue;
    }
    visitRow?.(row);
    if (looked++ < knownAfter) lookAtFirst(row, accessors, meet);
    else lookAtNext(row as Record<string, unknown>, accessors, meet);
  }
  return looked;
}

function lookAtFirst(row: object, accessors: Set<string>, meet: (value: unknown) => void): void {
  for (const name in row) {
    const property = Object.getOwnPropertyDescriptor(row, name);
    if (property && 'value' in property) meet(property.value);
    else accessors.add(name);
  }
}

function lookAtNext(row: Record<string, unknown>, accessors: Set<string>, meet: (value: unknown) => void): void {
  try {
    for (const name in row) {
      if (accessors.size > 0 && accessors.has(name)) continue;
      const value = row[name];
      if (typeof value === 'object' && value !== null) meet(value);
    }
  } catch {
    // A getter that the first rows did not have, and that fails.
    lookAtFirst(row, accessors, meet);
  }
}

/** A record such as literals, JSON and databases give. Asking for the constructor costs a tenth of asking for the prototype. */
function isRecord(value: object): boolean {
  try {
    return value.constructor === Object;
  } catch {
    return false;
  }
}
