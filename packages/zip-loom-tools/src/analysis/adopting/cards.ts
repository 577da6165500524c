/** Cards and rows that stand in several places of adopted pages, as partials. */
import { Compilation } from 'zip-loom/internal/compiler';
import { edited } from '../edit.ts';
import { freeName } from '../free-name.ts';
import { remembered } from '../remembered.ts';
import { extractionPlan } from '../repeats/extract.ts';
import { findRepeats } from '../repeats/repeats.ts';
import type { Names } from './names.ts';

/** A partial that would be made, and what all templates would be then. */
export interface Card {
  /** The same markup has the same key, wherever it stands meanwhile. */
  key: string;
  files: Record<string, string>;
  /** Those of what would be there. */
  names: Names;
  /** Paths of the templates that would change. */
  changed: string[];
  /** Of all templates, without it and with it. */
  before: Compilation;
  after: Compilation;
}

export interface CardSettings {
  elements: readonly string[];
  /** Of the files, where they have been compiled. */
  compilation?: Compilation | undefined;
  /** Keys of those that were tried. */
  tried: ReadonlySet<string>;
  /** Those of what is there. */
  names: Names;
}

/** Markup in two places may well be meant to differ. */
const fewestPlaces = 3;

/** So many bytes a partial has to save. */
const leastSaving = 300;

/** The one that saves most; `undefined` where there is none. */
export function nextCard(
  files: Readonly<Record<string, string>>,
  { elements, compilation, tried, names: known }: CardSettings,
): Card | undefined {
  const before = compilation ?? compiled(files, elements, undefined);
  for (const repeat of repeatsIn(before)) {
    const [first] = repeat.places;
    const key = files[first!.file]!.slice(first!.start, first!.end);
    if (tried.has(key) || repeat.places.length < fewestPlaces) continue;
    const guess = freeName(repeat.name, (one) => known.isGuessed(one));
    const names = known.copy();
    const plan = extractionPlan(before, first!.file, first!, {
      name: names.template(guess),
      parameterName: (parameter) => names.parameter(guess, parameter),
      isEverywhere: true,
      isFlush: false,
    });
    if (!plan || plan.edits.length < fewestPlaces) continue;
    const next: Record<string, string> = { ...files, [plan.file]: plan.text };
    const changed = [...new Set(plan.edits.map(({ file }) => file))];
    for (const path of changed)
      next[path] = edited(
        files[path]!,
        plan.edits.filter(({ file }) => file === path),
      );
    const after = compiled(next, elements, before);
    if (after.diagnostics().some(({ severity }) => severity === 'error')) continue;
    return { key, names, files: next, changed, before, after };
  }
  return undefined;
}

/** Looked for once, however many of them are tried. */
const repeatsIn = remembered(({ set }: Compilation) => findRepeats([...set.files.keys()], leastSaving));

function compiled(
  files: Readonly<Record<string, string>>,
  elements: readonly string[],
  previous: Compilation | undefined,
): Compilation {
  const sources = new Map(Object.entries(files).map(([path, source]) => [path, { source, file: path }]));
  return new Compilation(sources, { elements, helpers: new Set() }, previous);
}
