/** Where two documents differ, and whether a browser sees it. */
import type { Element, TemplateNode } from 'zip-loom/internal/language';
import { documentTree } from './sheets.ts';

export interface DocumentDifference {
  /** The line of the first document, counted from 1. */
  line: number;
  what: string;
  /** Whether both are read as the same tree. */
  isSameTree: boolean;
}

/** @returns `undefined` for documents that are the same, byte for byte */
export function documentDifference(before: string, after: string): DocumentDifference | undefined {
  if (before === after) return undefined;
  const [one, other] = [documentTree(before), documentTree(after)];
  const found = difference(one.children, other.children, [one.source, other.source]);
  const line = (offset: number) => one.lines.at(Math.min(offset, one.source.length)).line;
  if (found) return { line: line(found.start), what: found.what, isSameTree: false };
  const at = [...before].findIndex((letter, index) => letter !== after[index]);
  const lines = before.slice(0, at === -1 ? before.length : at).split('\n').length;
  return { line: lines, what: 'the order of attributes, or how a tag is written', isSameTree: true };
}

interface Found {
  start: number;
  what: string;
}

function difference(
  one: readonly TemplateNode[],
  other: readonly TemplateNode[],
  sources: readonly [string, string] | readonly string[],
): Found | undefined {
  for (let at = 0; at < Math.max(one.length, other.length); at++) {
    const [here, there] = [one[at], other[at]];
    if (!here || !there)
      return { start: (here ?? one.at(-1))?.start ?? 0, what: here ? 'something is missing' : 'something is added' };
    if (here.kind === 'element' && there.kind === 'element') {
      if (here.name !== there.name) return { start: here.start, what: `<${here.name}> became <${there.name}>` };
      const attributes = attributeDifference(here, there, sources);
      if (attributes !== undefined) return { start: here.start, what: attributes };
      const inside = difference(here.children, there.children, sources);
      if (inside) return inside;
    } else if (sources[0]!.slice(here.start, here.end) !== sources[1]!.slice(there.start, there.end))
      return { start: here.start, what: 'another text' };
  }
  return undefined;
}

/** The order counts for nobody. */
function attributeDifference(one: Element, other: Element, sources: readonly string[]): string | undefined {
  const [before, after] = [one, other].map(({ items }, at) => {
    const pairs = items.flatMap((item): Array<[string, string]> => {
      if (item.kind !== 'attribute') return [];
      const [first, last] = [item.value?.[0], item.value?.at(-1)];
      return [[item.name, first && last ? sources[at]!.slice(first.start, last.end) : '']];
    });
    return new Map(pairs);
  });
  for (const name of new Set([...before!.keys(), ...after!.keys()]))
    if (before!.get(name) !== after!.get(name)) return `${name} of <${one.name}>`;
  return undefined;
}
