/** What differs between pieces of one shape, as the parameters that a partial for all of them would take. */
import { argumentName } from 'zip-loom/internal/compiler';
import { freeName } from '../free-name.ts';
import type { Value } from './values.ts';

export interface Difference {
  /** A name for it. */
  name: string;
  kind: 'text' | 'attribute' | 'expression' | 'name';
  /** What is written at each place. */
  values: readonly string[];
}

/** With the values of a piece that it is about, by their order; none for a name. */
export interface PlacedDifference extends Difference {
  at: readonly number[];
}

/** @param places the values of each piece, as many of each */
export function differencesOf(places: ReadonlyArray<readonly Value[]>): Difference[] {
  return placedDifferences(places, new Set()).map(({ at: _, ...difference }) => difference);
}

/** @param known names that mean something else already */
export function placedDifferences(
  places: ReadonlyArray<readonly Value[]>,
  known: ReadonlySet<string>,
): PlacedDifference[] {
  const [first = [], ...others] = places;
  const renamings = others.map((other) => renamingOf(first, other));
  const found: Array<PlacedDifference & { at: number[] }> = [];
  const taken = new Set(known);
  const note = (kind: Difference['kind'], values: string[], guess: string, at: number[]) => {
    if (values.every((one) => one === values[0])) return;
    // What differs alike is one parameter.
    const same = found.find((one) => one.values.every((value, place) => value === values[place]));
    if (same && (same.kind === 'name') === (kind === 'name')) {
      for (const one of at) same.at.push(one);
      return;
    }
    const name = kind === 'name' ? guess : freeName(guess, (one) => taken.has(one), '');
    taken.add(name);
    found.push({ name, kind, values, at });
  };
  // A loop has another name for its item in another template.
  for (const name of new Set(first.flatMap((value) => value.names.map((one) => one.name)))) {
    const names = renamings.map((renaming) => renaming.get(name) ?? name);
    note('name', [name, ...names], name, []);
  }
  first.forEach((value, at) => {
    const written = places.map((place) => place[at]!.source);
    const isRenamed = others.every((other, index) => renamed(value, renamings[index]!) === other[at]!.source);
    if (!isRenamed) note(value.kind, written, guessOf(value), [at]);
  });
  return found;
}

/** Names of one piece → those that stand for them in another, as far as each stands for one alone. */
function renamingOf(one: readonly Value[], other: readonly Value[]): Map<string, string> {
  const renaming = new Map<string, string>();
  const unclear = new Set<string>();
  one.forEach((value, at) => {
    const pair = other[at]!;
    if (pattern(value) !== pattern(pair)) return;
    value.names.forEach(({ name }, index) => {
      const there = pair.names[index]!.name;
      if ((renaming.get(name) ?? there) !== there) unclear.add(name);
      renaming.set(name, there);
    });
  });
  for (const name of unclear) renaming.delete(name);
  return renaming;
}

/** A value without its names. */
function pattern(value: Value): string {
  return withNames(value, () => '\u0000');
}

function renamed(value: Value, renaming: ReadonlyMap<string, string>): string {
  return withNames(value, (name) => renaming.get(name) ?? name);
}

function withNames({ source, start, names }: Value, nameFor: (name: string) => string): string {
  let text = '';
  let at = start;
  for (const one of names) {
    text += source.slice(at - start, one.start - start) + nameFor(one.name);
    at = one.end;
  }
  return text + source.slice(at - start);
}

/** What people call the text of an element. */
const words: Readonly<Record<string, string>> = {
  a: 'label',
  button: 'label',
  p: 'text',
  li: 'text',
  td: 'cell',
  th: 'heading',
  h1: 'heading',
  h2: 'heading',
  h3: 'heading',
  h4: 'heading',
  h5: 'heading',
  h6: 'heading',
  dt: 'term',
  dd: 'value',
  time: 'time',
  figcaption: 'caption',
  blockquote: 'quote',
};

/** What their text is called, whatever their class says. */
const named = new Set(['a', 'button', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'time', 'figcaption', 'dt']);

function guessOf({ kind, of, word, source }: Value): string {
  if (kind === 'expression') return parameterName(lastName(source));
  if (kind === 'attribute') return parameterName(of);
  return parameterName(named.has(of) || word === '' ? (words[of] ?? 'text') : word);
}

/** The name at the end of an expression, brackets and the like left out. */
function lastName(source: string): string {
  const last = [...source.matchAll(/[\p{L}_$][\p{L}\p{N}_$]*/gu)].at(-1);
  return last && !/\w/.test(source.slice(last.index + last[0].length)) ? last[0] : 'value';
}

function parameterName(name: string): string {
  const text = argumentName(name.replace(/[_:.]+/g, '-'));
  // `class` and the like are no names of parameters.
  return reserved.has(text) ? `${text}Name` : text;
}

const reserved = new Set(['class', 'for', 'default', 'in', 'is', 'slot']);
