/** Which parts of some pages are which nodes of another: those that are the same, and elements that are alike inside. */
import type { Element, TemplateNode } from 'zip-loom/internal/language';
import { type ElementPart, type FixedPart, isBlank, type Part, textOn } from './parts.ts';
import { commonLength, type Pieces, piecesOf } from './pieces.ts';
import { mergedTag } from './tags.ts';

export interface Pair {
  part: number;
  node: number;
}

/** More pairs than this are not compared one by one. */
const mostComparisons = 250_000;

/** @returns pairs in order, no two of which cross: those that have the most in common */
export function aligned(parts: readonly Part[], nodes: readonly TemplateNode[], source: string): Pair[] {
  const texts = nodes.map(({ start, end }) => source.slice(start, end));
  const pairs: Pair[] = [];
  let first = 0;
  const isSame = (part: number, node: number) => {
    const one = parts[part]!;
    return one.kind === 'fixed' && one.text === texts[node];
  };
  while (first < parts.length && first < nodes.length && isSame(first, first)) {
    pairs.push({ part: first, node: first });
    first += 1;
  }
  const last: Pair[] = [];
  let [lastPart, lastNode] = [parts.length - 1, nodes.length - 1];
  while (lastPart >= first && lastNode >= first && isSame(lastPart, lastNode)) {
    last.unshift({ part: lastPart, node: lastNode });
    lastPart -= 1;
    lastNode -= 1;
  }
  const [rows, columns] = [lastPart - first + 1, lastNode - first + 1];
  if (rows > 0 && columns > 0) {
    const score = (row: number, column: number): number => {
      const [part, node] = [parts[first + row]!, nodes[first + column]!];
      const text = texts[first + column]!;
      if (part.kind === 'fixed' && part.text === text) return isBlank(text) ? 0.5 : text.length + 1;
      if (rows * columns > mostComparisons || node.kind !== 'element') return 0;
      return likeness(part, node, source);
    };
    for (const { part, node } of best(rows, columns, score)) pairs.push({ part: first + part, node: first + node });
  }
  return [...pairs, ...last];
}

/** The longest of all ways, by the sum of scores. */
function best(rows: number, columns: number, score: (row: number, column: number) => number): Pair[] {
  const width = columns + 1;
  const sums = new Float64Array((rows + 1) * width);
  const scores = new Float64Array(rows * columns);
  for (let row = rows - 1; row >= 0; row--)
    for (let column = columns - 1; column >= 0; column--) {
      const own = score(row, column);
      scores[row * columns + column] = own;
      const together = own > 0 ? own + sums[(row + 1) * width + column + 1]! : 0;
      sums[row * width + column] = Math.max(
        sums[(row + 1) * width + column]!,
        sums[row * width + column + 1]!,
        together,
      );
    }
  const pairs: Pair[] = [];
  let [row, column] = [0, 0];
  while (row < rows && column < columns) {
    const own = scores[row * columns + column]!;
    const here = sums[row * width + column]!;
    if (own > 0 && here === own + sums[(row + 1) * width + column + 1]!) pairs.push({ part: row++, node: column++ });
    else if (here === sums[(row + 1) * width + column]!) row += 1;
    else column += 1;
  }
  return pairs;
}

/** How much an element has in common with one of the pages before: 0 where it is another. */
function likeness(part: Part, node: Element, source: string): number {
  const known = elementOf(part);
  if (!known || known.name !== node.name || known.namespace !== node.namespace) return 0;
  const tag = mergedTag(part as FixedPart | ElementPart, node, source);
  if (!tag) return 0;
  // Scripts are code, and what is written in a box is one text.
  if (/^(?:script|style|textarea)$/.test(node.name)) return 0;
  // What is said about a page stands in tags alone: the name says which they are.
  if (node.name === 'meta')
    return tag.some((piece) => typeof piece === 'string' && /^\s+(?:name|property)=/.test(piece)) ? 1 : 0;
  // There is one of each in a document.
  if (/^(?:html|head|body|title|main)$/.test(node.name)) return 1000;
  const [one, other] = [textOn(part, 0), source.slice(node.start, node.end)];
  const common = commonLength(pieces(one), pieces(other));
  return common * 5 < Math.min(one.length, other.length) ? 0 : common * 0.9;
}

export function elementOf(part: Part): Element | undefined {
  if (part.kind === 'element') return part.element;
  return part.kind === 'fixed' ? part.element?.element : undefined;
}

const known = new Map<string, Pieces>();

function pieces(text: string): Pieces {
  const found = known.get(text) ?? piecesOf(text);
  // Pages come one after another; what was before the last ones is asked no more.
  if (known.size > 5000) known.clear();
  known.set(text, found);
  return found;
}
