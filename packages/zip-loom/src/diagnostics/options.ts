/**
 * Options as callers give them. Each function that takes some has a table of their names and kinds; a name that is not in it, and a
 * value of another kind, is an error at once, with the nearest name and what would be right.
 */
import { describeValue } from './describe-value.ts';
import { LoomError } from './errors.ts';
import { nearest } from './nearest.ts';
import { optionDiagnostic } from './option-diagnostics.ts';
import { anyRecord, type OptionKind } from './option-kinds.ts';

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
  if (!anyRecord.holds(given))
    throw new LoomError(optionDiagnostic('invalid-options', { owner, given: shown(given), known: namesOf(table) }));
  for (const [name, value] of Object.entries(given as object)) {
    if (!Object.hasOwn(table, name)) throw unknownOption(owner, name, name, namesOf(table));
    if (value !== undefined) assertKind(owner, name, value, table[name as keyof Options]);
  }
}

/**
 * Checks one argument of a function.
 * @param call the function, as messages name it: `redirect`
 * @param what the argument, in words: `URL`
 * @throws {LoomError} for a value of another kind
 */
export function assertArgument(call: string, what: string, value: unknown, kind: OptionKind): void {
  if (!kind.holds(value))
    throw new LoomError(optionDiagnostic('invalid-call', { call, what, given: shown(value), kind: kind.words }));
}

/** @throws {LoomError} for a value of another kind; `path` is where it is, such as `assets.folder` */
function assertKind(owner: string, path: string, value: unknown, kind: OptionKind): void {
  const { inside } = kind;
  const named = inside && anyRecord.holds(value) ? Object.entries(value as object) : [];
  for (const [name, inner] of named) {
    const own = inside && Object.hasOwn(inside, name) ? inside[name] : undefined;
    if (!own) throw unknownOption(owner, `${path}.${name}`, name, Object.keys(inside ?? {}));
    if (inner !== undefined) assertKind(owner, `${path}.${name}`, inner, own);
  }
  if (kind.holds(value)) return;
  const [inner, wrong] = kind.each ? (partsOf(value).find(([, one]) => !kind.each?.holds(one)) ?? []) : [];
  if (inner !== undefined && kind.each) assertKind(owner, path + inner, wrong, kind.each);
  throw new LoomError(optionDiagnostic('invalid-option', { owner, name: path, given: shown(value), kind: kind.words }));
}

function unknownOption(owner: string, path: string, name: string, known: readonly string[]): LoomError {
  return new LoomError(optionDiagnostic('unknown-option', { owner, name: path, nearest: nearest(name, known), known }));
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

/** A value for a message. A number is not shown, for it may be a secret. */
function shown(value: unknown): string {
  return typeof value === 'number' || typeof value === 'bigint' ? `a ${typeof value}` : describeValue(value);
}
