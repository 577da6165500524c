/** What several pages have in common, and what differs: a tree of parts, each with what every page has there. */
import type { Element, LiteralMarkup, TemplateNode } from 'zip-loom/internal/language';

/** A page as it was read. */
export interface Sheet {
  /** Its path without the ending: `about`, `docs/index`. */
  path: string;
  source: LiteralMarkup;
  nodes: readonly TemplateNode[];
}

export type Part = FixedPart | ElementPart | Hole;

/** The same on all pages so far. */
export interface FixedPart {
  kind: 'fixed';
  text: string;
  /** The element that it is, with its source, as long as it may still turn out to differ inside. */
  element?: { element: Element; source: string };
}

/** An element whose tag or content differs. */
export interface ElementPart {
  kind: 'element';
  element: Element;
  tag: TagPiece[];
  children: Part[];
  end: string;
}

/** A piece of a start tag: text, or an attribute as each page has it, with the space before it; '' where it has none. */
export type TagPiece = string | { attribute: string; texts: string[] };

/** What each page has there, in the order of the pages. */
export interface Hole {
  kind: 'hole';
  contents: string[];
}

/** What a page has at a part. */
export function textOn(part: Part, page: number): string {
  if (part.kind === 'fixed') return part.text;
  if (part.kind === 'hole') return part.contents[page]!;
  const tag = part.tag.map((piece) => (typeof piece === 'string' ? piece : piece.texts[page]!)).join('');
  return tag + part.children.map((child) => textOn(child, page)).join('') + part.end;
}

export function isBlank(text: string): boolean {
  return text.trim() === '';
}

/** How many characters are the same on all pages. */
export function fixedLength(parts: readonly Part[]): number {
  let length = 0;
  for (const part of parts) {
    if (part.kind === 'fixed') length += part.text.length;
    if (part.kind !== 'element') continue;
    length += part.end.length + fixedLength(part.children);
    for (const piece of part.tag) if (typeof piece === 'string') length += piece.length;
  }
  return length;
}

/** All holes, with the elements around each. */
export function holesOf(
  parts: readonly Part[],
  around: readonly ElementPart[] = [],
): Array<{ hole: Hole; around: readonly ElementPart[] }> {
  return parts.flatMap((part) => {
    if (part.kind === 'hole') return [{ hole: part, around }];
    return part.kind === 'element' ? holesOf(part.children, [...around, part]) : [];
  });
}
