/** Names of fields as paths: `crew[0].name`. */
import type { Group, Shape } from './shape.ts';

/** Steps of a path: names of fields, indices, and `''` for `[]`, the next item of a list. */
export type Path = ReadonlyArray<string | number>;

/** How deep names are that templates and code write. */
export const deepestName = 12;

/** Never names of fields, whatever the schema says. */
const forbidden = new Set(['__proto__', 'prototype', 'constructor']);

const simpleName = /^[^.[\]]+$/;
const pathSyntax = /^[^.[\]]+(?:\[\d*\]|\.[^.[\]]+)*$/;

/**
 * Reads a name. `undefined` for one that is no path, too deep, or forbidden.
 * @param depth how many steps a path may have
 */
export function parsePath(name: string, depth: number): Path | undefined {
  // Most names are those of single fields.
  if (simpleName.test(name)) return forbidden.has(name) || depth < 1 ? undefined : [name];
  let path = known.get(name);
  if (!path) {
    path = readPath(name);
    if (known.size >= mostKnown) known.clear();
    if (path && name.length <= longestKnown) known.set(name, path);
  }
  return path && path.length <= depth ? path : undefined;
}

/** Names of rows come again and again. So many are remembered, and none that is longer than any page would write. */
const known = new Map<string, Path>();
const mostKnown = 5000;
const longestKnown = 200;

function readPath(name: string): Path | undefined {
  if (!pathSyntax.test(name)) return undefined;
  const steps: Array<string | number> = [];
  for (const [, index, key] of name.matchAll(/\[(\d*)\]|\.?([^.[\]]+)/g)) {
    if (key !== undefined) {
      if (forbidden.has(key)) return undefined;
      steps.push(key);
    } else {
      steps.push(index === '' ? '' : Number(index));
    }
  }
  return steps;
}

/** `['crew', 0, 'name']` → `crew[0].name`. */
export function formatPath(path: ReadonlyArray<PropertyKey>): string {
  let name = '';
  for (const step of path) {
    if (typeof step === 'number') name += `[${step}]`;
    else if (step === '') name += '[]';
    else name += name === '' ? String(step) : `.${String(step)}`;
  }
  return name;
}

/** The same for a path. */
export function patternOfPath(path: Path): string {
  return path.length === 1 ? String(path[0]) : formatPath(path.map((step) => (typeof step === 'number' ? '' : step)));
}

/** Whether a path is another’s, or leads to a place inside it. */
export function isWithin(path: Path, outer: Path): boolean {
  return outer.every((step, index) => path[index] !== undefined && String(path[index]) === String(step));
}

/** The name with every index left out, as lists of names and choices have it: `crew[].name`. */
export function patternOf(name: string): string {
  return name.includes('[') ? name.replace(/\[\d+\]/g, '[]') : name;
}

/** The shape of the field at a path, or `undefined` when the form has none. A list’s own name may stand for its items. */
export function shapeAt(form: Group, path: Path): Shape | undefined {
  let shape: Shape | undefined = form;
  for (const step of path) {
    if (shape?.shape === 'group' && typeof step === 'string') shape = shape.fields.get(step);
    else if (shape?.shape === 'list' && (typeof step === 'number' || step === '')) shape = shape.item;
    else return undefined;
  }
  return shape;
}

/** What is at a path of a plain value; only own properties count. */
export function valueAt(value: unknown, path: Path): unknown {
  let found = value;
  for (const step of path) {
    if (typeof found !== 'object' || found === null || !Object.hasOwn(found, step)) return undefined;
    found = (found as Record<string | number, unknown>)[step];
  }
  return found;
}
