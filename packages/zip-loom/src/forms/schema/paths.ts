/** Names of fields as paths: `crew[0].name`. */
import type { Group, Shape } from './shape.ts';

/** Steps of a path: names of fields, indices, and `''` for `[]`, the next item of a list. */
export type Path = ReadonlyArray<string | number>;

/** How deep names are that templates and code write. */
export const deepestName = 12;

/** Never names of fields, whatever the schema says. */
const forbidden = new Set(['__proto__', 'prototype', 'constructor']);

const [dot, open, close, zero, nine] = [...'.[]09'].map((character) => character.charCodeAt(0)) as number[];

/**
 * Reads a name: one of a field, then `[0]`, `[]` and `.name` in any order. `undefined` for one that is no path, too deep, or forbidden.
 * @param depth how many steps a path may have
 */
export function parsePath(name: string, depth: number): Path | undefined {
  const steps: Array<string | number> = [];
  let at = 0;
  while (at < name.length || steps.length === 0) {
    const code = name.charCodeAt(at);
    let step: string | number | undefined;
    if (code === open) {
      if (steps.length === 0) return undefined;
      const start = ++at;
      while (isDigit(name.charCodeAt(at))) at++;
      step = at === start ? '' : Number(name.slice(start, at));
      if (name.charCodeAt(at++) !== close) return undefined;
    } else {
      if (steps.length > 0 && name.charCodeAt(at++) !== dot) return undefined;
      const start = at;
      while (at < name.length && !endsKey(name.charCodeAt(at))) at++;
      step = name.slice(start, at);
      if (step === '' || forbidden.has(step)) return undefined;
    }
    if (steps.push(step) > depth) return undefined;
  }
  return steps;
}

function isDigit(code: number): boolean {
  return code >= zero! && code <= nine!;
}

function endsKey(code: number): boolean {
  return code === dot || code === open || code === close;
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

/** The name with every index left out, as lists of names and choices have it: `crew[].name`. */
export function patternOf(name: string): string {
  return name.includes('[') ? name.replace(/\[\d+\]/g, '[]') : name;
}

/** The rows on the way to a field, the outermost first: `crew[0]` for `crew[0].name` and for that row itself. */
export function rowsAround(path: Path): Path[] {
  return path.flatMap((step, index) => (typeof step === 'number' ? [path.slice(0, index + 1)] : []));
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
