/** A part of a template becomes a partial, at one place or at each place that differs only in values. */
import { attributeName, type Compilation, isBuiltIn } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';
import { type Element, elementsOf, type TemplateTree } from 'zip-loom/internal/language';
import type { Edit } from '../edit.ts';
import { extraction } from '../editor/extraction.ts';
import { type PlacedDifference, placedDifferences } from './differences.ts';
import { Shapes } from './shapes.ts';
import { type Value, valuesOf } from './values.ts';

export interface ExtractionPlan {
  /** The new file, and what it holds. */
  file: string;
  text: string;
  edits: ReadonlyArray<Edit & { file: string }>;
}

export interface ExtractionPlanSettings {
  /** Of the partial. */
  name: string;
  /** Whether other places of the same shape call it too. */
  isEverywhere: boolean;
  /** What a parameter is called for which a name was guessed. Default: as it was guessed. */
  parameterName?(guess: string): string;
  /** Whether its lines begin at the left. Default: true. */
  isFlush?: boolean;
}

/**
 * @returns `undefined` where the selection is not whole elements of one parent, or belongs to what is around it
 */
export function extractionPlan(
  compilation: Compilation,
  file: string,
  selection: Span,
  { name, isEverywhere, parameterName = (guess) => guess, isFlush = true }: ExtractionPlanSettings,
): ExtractionPlan | undefined {
  const alone = extraction(compilation, file, selection, { name, isFlush });
  if (!alone) return undefined;
  const plain = { file: alone.file, text: alone.text, edits: [{ ...alone.edit, file }] };
  const tree = compilation.treeOf(file)!;
  const element = elementsOf(tree.children).find(
    ({ start, end }) => start === alone.edit.start && end === alone.edit.end,
  );
  if (!isEverywhere || !element) return plain;
  const pieces = sameShape(compilation, { tree, element }, alone.names);
  if (pieces.length === 1) return plain;
  const values = pieces.map((piece) => valuesOf(piece.element, piece.tree.source));
  const differences = placedDifferences(values, new Set(alone.names)).map((difference) =>
    difference.kind === 'name' ? difference : { ...difference, name: parameterName(difference.name) },
  );
  const parameters = differences
    .filter(({ kind }) => kind !== 'name')
    .map((difference) => ({
      name: difference.name,
      places: difference.at.map((at) => values[0]![at]!),
      text: difference.kind === 'expression' ? difference.name : `\${${difference.name}}`,
    }));
  const whole = extraction(compilation, file, selection, { name, parameters, isFlush });
  if (!whole) return plain;
  const edits = pieces.map((piece, at) => ({
    file: piece.tree.file,
    start: piece.element.start,
    end: piece.element.end,
    text: callAt(at, name, whole.names, differences, values),
  }));
  return { file: whole.file, text: whole.text, edits };
}

interface Piece {
  tree: TemplateTree;
  element: Element;
}

/** The element, and all others of its shape that can be taken out and have something for each name that it reads. */
function sameShape(compilation: Compilation, given: Piece, names: readonly string[]): Piece[] {
  const values = valuesOf(given.element, given.tree.source);
  const shapes = new Shapes();
  const wanted = shapes.of(given.element, given.tree.source, () => {});
  const found: Piece[] = [given];
  for (const [tree, { templates }] of compilation.set.files) {
    if (compilation.set.broken.has(tree) || templates.some(isBuiltIn)) continue;
    const note = (element: Element, shape: number) => {
      if (shape !== wanted || (tree === given.tree && element.start === given.element.start)) return;
      const other = extraction(compilation, tree.file, element);
      const pair = [values, valuesOf(element, tree.source)];
      if (other && hasAll(placedDifferences(pair, new Set()), names, other.names)) found.push({ tree, element });
    };
    for (const node of tree.children) if (node.kind === 'element') shapes.of(node, tree.source, note);
  }
  return found;
}

function hasAll(
  differences: readonly PlacedDifference[],
  names: readonly string[],
  others: readonly string[],
): boolean {
  const counterpart = (name: string) =>
    differences.find((one) => one.kind === 'name' && one.name === name)?.values[1] ?? name;
  return names.every((name) => others.includes(counterpart(name)));
}

function callAt(
  place: number,
  name: string,
  names: readonly string[],
  differences: readonly PlacedDifference[],
  values: ReadonlyArray<readonly Value[]>,
): string {
  const passed = names.map((one) => {
    const renamed = differences.find((difference) => difference.kind === 'name' && difference.name === one);
    return ` ${attributeName(one)}=\${${renamed?.values[place] ?? one}}`;
  });
  const others = differences.filter(({ kind }) => kind !== 'name');
  const given = others.map((difference) => {
    const written = difference.values[place]!;
    const { kind } = values[place]![difference.at[0]!]!;
    return ` ${attributeName(difference.name)}=${kind === 'expression' ? `\${${written}}` : asArgument(written)}`;
  });
  return `<${name}${passed.join('')}${given.join('')}></${name}>`;
}

/** A substitution alone gives its value; all else is text. */
function asArgument(written: string): string {
  if (/^\$\{[^{}]*\}$/.test(written)) return written;
  return `"${written.replaceAll('"', '&quot;')}"`;
}
