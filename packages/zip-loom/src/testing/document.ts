/** A page’s tree, by the HTML standard’s own parsing, and questions to it. */
import type { AnyNode, Document, Element, ParentNode } from 'domhandler';
import { fromPackages } from '../diagnostics/index.ts';

export type { Document, Element };

// Servers run without them.
const [{ selectAll }, { Element: ElementNode, isTag, isText }, { parse }, { adapter }] = await fromPackages(
  'zip-loom/testing',
  ['css-select', 'domhandler', 'parse5', 'parse5-htmlparser2-tree-adapter'],
  async () =>
    [
      await import('css-select'),
      await import('domhandler'),
      await import('parse5'),
      await import('parse5-htmlparser2-tree-adapter'),
    ] as const,
);

export function parseDocument(html: string): Document {
  return parse(html, { treeAdapter: adapter });
}

/** Elements by a CSS selector, in the order of the document. @throws {Error} for a selector that is none */
export function select(selector: string, root: ParentNode): Element[] {
  return selectAll<AnyNode, Element>(selector, root.children as AnyNode[]);
}

/** What is read of an element: its text with whitespace as one space, as it is shown. */
export function shownText(node: AnyNode): string {
  return rawText(node).replace(/\s+/g, ' ').trim();
}

/** The text of an element as it is in the tree. */
export function rawText(node: AnyNode): string {
  if (isText(node)) return node.data;
  if (!('children' in node) || (isTag(node) && /^(?:script|style|template)$/.test(node.name))) return '';
  return (node.children as AnyNode[]).map(rawText).join('');
}

export function attribute(element: Element, name: string): string | undefined {
  return Object.hasOwn(element.attribs, name) ? element.attribs[name] : undefined;
}

export function hasAttribute(element: Element, name: string): boolean {
  return attribute(element, name) !== undefined;
}

/** The elements around one, the nearest first. */
export function* ancestors(element: Element): Generator<Element> {
  for (let node = element.parent; node; node = node.parent) if (node instanceof ElementNode) yield node;
}
