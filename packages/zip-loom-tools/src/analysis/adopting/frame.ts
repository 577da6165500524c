/** The frame that pages share: one page after another is laid upon it. */
import type { TemplateNode } from 'zip-loom/internal/language';
import { aligned, elementOf } from './align.ts';
import type { ElementPart, FixedPart, Part, Sheet } from './parts.ts';
import { fixedLength, textOn } from './parts.ts';
import { mergedTag } from './tags.ts';

/** A page that would leave so little of the frame is of another family. */
const leastLeft = 0.45;

/** Pages with their frame, all in one tree of parts; and those that have another one. */
export interface Framed {
  frame: Part[];
  sheets: Sheet[];
  others: Sheet[];
}

export function framed([first, ...more]: readonly Sheet[]): Framed {
  let frame = fixedParts(first!.nodes, first!.source);
  const sheets = [first!];
  const others: Sheet[] = [];
  for (const sheet of more) {
    const next = laidUpon(frame, sheet.nodes, sheet.source, sheets.length);
    // The first two make the frame.
    if (sheets.length > 1 && fixedLength(next) < leastLeft * fixedLength(frame)) {
      others.push(sheet);
      continue;
    }
    frame = next;
    sheets.push(sheet);
  }
  return { frame, sheets, others };
}

function fixedParts(nodes: readonly TemplateNode[], source: string): Part[] {
  return nodes.map((node) => ({
    kind: 'fixed',
    text: source.slice(node.start, node.end),
    ...(node.kind === 'element' ? { element: { element: node, source } } : {}),
  }));
}

/** @param pages how many pages the parts are of */
function laidUpon(parts: readonly Part[], nodes: readonly TemplateNode[], source: string, pages: number): Part[] {
  const merged: Part[] = [];
  let [atPart, atNode] = [0, 0];
  const fill = (untilPart: number, untilNode: number) => {
    const between = parts.slice(atPart, untilPart);
    const text = untilNode > atNode ? source.slice(nodes[atNode]!.start, nodes[untilNode - 1]!.end) : '';
    if (between.length === 0 && text === '') return;
    const before = Array.from({ length: pages }, (_, page) => between.map((part) => textOn(part, page)).join(''));
    merged.push({ kind: 'hole', contents: [...before, text] });
  };
  for (const pair of aligned(parts, nodes, source)) {
    fill(pair.part, pair.node);
    merged.push(pairedPart(parts[pair.part]!, nodes[pair.node]!, source, pages));
    [atPart, atNode] = [pair.part + 1, pair.node + 1];
  }
  fill(parts.length, nodes.length);
  return merged;
}

function pairedPart(part: Part, node: TemplateNode, source: string, pages: number): Part {
  const text = source.slice(node.start, node.end);
  if (part.kind === 'fixed' && part.text === text) return part;
  const element = elementOf(part);
  const tag = node.kind === 'element' ? mergedTag(part as FixedPart | ElementPart, node, source, pages) : undefined;
  if (node.kind !== 'element' || !element || !tag || part.kind === 'hole') return holeOf(part, text, pages);
  const end = source.slice(node.endTag?.start ?? node.end, node.end);
  const known = part.kind === 'element' ? part : openedPart(part);
  if (known.end !== end) return holeOf(part, text, pages);
  return { kind: 'element', element, tag, children: laidUpon(known.children, node.children, source, pages), end };
}

function holeOf(part: Part, text: string, pages: number): Part {
  return { kind: 'hole', contents: [...Array.from({ length: pages }, (_, page) => textOn(part, page)), text] };
}

function openedPart({ element: known }: FixedPart): Pick<ElementPart, 'children' | 'end'> {
  const { element, source } = known!;
  return {
    children: fixedParts(element.children, source),
    end: source.slice(element.endTag?.start ?? element.end, element.end),
  };
}
