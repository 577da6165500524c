/**
 * Options as callers give them. Each function that takes some has a table of their names and kinds; a name that is not in it, and a
 * value of another kind, is an error at once, with the nearest name and what would be right.
 */
import { LoomError } from './errors.ts';
import { didYouMean } from './nearest.ts';
import { optionDiagnostic } from './option-diagnostics.ts';
import type { OptionKind } from './option-kinds.ts';

/** All options of a function and what each may be. */
export type OptionTable<Options extends object> = { readonly [Name in keyof Required<Options>]: OptionKind };

/**
 * Checks what was given. Options that are `undefined` are taken as left out.
 * @param owner whose options these are, as messages name it: `createLoom`
 * @throws {LoomError} for an unknown name and for a value of the wrong kind
 */
export function assertOptions<Options extends object>(
  owner: string,
  given: unknown,
  table: OptionTable<Options>,
): asserts given is Options | undefined {
  if (given === undefined) return;
  if (typeof given !== 'object' || given === null || Array.isArray(given))
    throw new LoomError(optionDiagnostic('invalid-options', { owner, given: inWords(given), known: namesOf(table) }));
  for (const [name, value] of Object.entries(given)) {
    if (!Object.hasOwn(table, name)) {
      const known = namesOf(table);
      throw new LoomError(optionDiagnostic('unknown-option', { owner, name, nearest: didYouMean(name, known), known }));
    }
    if (value !== undefined) assertKind(owner, name, value, table[name as keyof Options]);
  }
}

/** @throws {LoomError} for a value of another kind; `path` is where it is, such as `assets.folder` */
function assertKind(owner: string, path: string, value: unknown, kind: OptionKind): void {
  if (!kind.holds(value)) {
    const [inner, wrong] = kind.each ? (partsOf(value).find(([, one]) => !kind.each?.holds(one)) ?? []) : [];
    if (inner !== undefined && kind.each) assertKind(owner, path + inner, wrong, kind.each);
    throw new LoomError(
      optionDiagnostic('invalid-option', { owner, name: path, given: inWords(value), kind: kind.words }),
    );
  }
  if (!kind.inside || typeof value !== 'object' || value === null) return;
  const known = Object.keys(kind.inside);
  for (const [name, inner] of Object.entries(value)) {
    const own = Object.hasOwn(kind.inside, name) ? kind.inside[name] : undefined;
    if (!own)
      throw new LoomError(
        optionDiagnostic('unknown-option', { owner, name: `${path}.${name}`, nearest: didYouMean(name, known), known }),
      );
    if (inner !== undefined) assertKind(owner, `${path}.${name}`, inner, own);
  }
}

/** The items of a list and the values of an object, each with what leads there. */
function partsOf(value: unknown): Array<[path: string, part: unknown]> {
  if (Array.isArray(value)) return value.map((item, index) => [`[${index}]`, item]);
  return typeof value === 'object' && value !== null
    ? Object.entries(value).map(([name, one]) => [`.${name}`, one])
    : [];
}

function namesOf(table: object): string[] {
  return Object.keys(table);
}

/** What was given, in a few words. Only short texts are repeated: a number may be a secret. */
function inWords(value: unknown): string {
  if (typeof value === 'string') return `“${value.length > 40 ? `${value.slice(0, 40)}…` : value}”`;
  if (value === null || typeof value === 'boolean') return String(value);
  if (Array.isArray(value)) return 'a list';
  return typeof value === 'object' ? 'an object' : `a ${typeof value}`;
}
