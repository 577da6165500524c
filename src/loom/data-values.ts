/** Objects in the data of a page, wherever they stand in it. */

/** So many objects are looked into: data may lead to the whole of a program. Lists count by their items. */
const mostObjects = 100_000;

/** After so many rows of a list, the names that are read by functions are known. */
const knownAfter = 16;

/**
 * Calls `visit` for every object in the data: in lists, maps, plain objects and instances of classes. No function of the data is
 * called: a getter may be a way to fetch only what is read, or fail.
 */
export function visitObjects(data: object, visit: (value: object) => void): void {
  const seen = new Set<object>([data]);
  const waiting: object[] = [data];
  let left = mostObjects;
  const meet = (value: unknown) => {
    if (typeof value !== 'object' || value === null || seen.has(value)) return;
    seen.add(value);
    visit(value);
    waiting.push(value);
  };
  for (let at = 0; at < waiting.length && left > 0; at++) {
    left -= 1;
    try {
      left -= look(waiting[at]!, meet, visit);
    } catch {
      // Something that only behaves like an object, as a proxy.
    }
  }
}

/** Meets the values of one object, and says how many of them were looked into at once. */
function look(one: object, meet: (value: unknown) => void, visit: (value: object) => void): number {
  if (Array.isArray(one)) return lookAtRows(one, meet, visit);
  if (one instanceof Map || one instanceof Set) {
    for (const value of one.values()) meet(value);
  } else if (!ArrayBuffer.isView(one)) {
    for (const name of Object.keys(one)) meet(Object.getOwnPropertyDescriptor(one, name)?.value);
  }
  return 0;
}

/** Rows of a list are mostly alike, and many: they are looked into as they come, and only what they hold is remembered. */
function lookAtRows(rows: readonly unknown[], meet: (value: unknown) => void, visit: (value: object) => void): number {
  const accessors = new Set<string>();
  let looked = 0;
  for (const row of rows) {
    if (typeof row !== 'object' || row === null) continue;
    if (!isPlain(row)) {
      meet(row);
      continue;
    }
    visit(row);
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

function lookAtNext(
  row: Record<string, unknown>,
  accessors: ReadonlySet<string>,
  meet: (value: unknown) => void,
): void {
  for (const name in row) {
    if (accessors.size > 0 && accessors.has(name)) continue;
    let value: unknown;
    try {
      value = row[name];
    } catch {
      continue;
    }
    if (typeof value === 'object' && value !== null) meet(value);
  }
}

function isPlain(value: object): boolean {
  const prototype: unknown = Object.getPrototypeOf(value);
  return prototype === Object.prototype || prototype === null;
}
