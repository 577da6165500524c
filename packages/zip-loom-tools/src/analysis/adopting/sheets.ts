/** Pages as they are read, and as they are written where they stand alone. */
import type { Span } from 'zip-loom/internal/diagnostics';
import {
  clausesOf,
  elementsOf,
  expressionsOf,
  literalMarkup,
  parseTemplate,
  type TemplateTree,
} from 'zip-loom/internal/language';
import { asWritten } from './holes.ts';
import type { Sheet } from './parts.ts';

/** A template sheds the whitespace that it begins with: what a document begins with is written as a value. */
export function withLead(text: string): string {
  const lead = /^\s*/.exec(text)![0];
  return lead === '' ? text : asWritten(lead) + text.slice(lead.length);
}

/** A page that stands alone. */
export function alone(sheet: Sheet): Record<string, string> {
  return { [`pages/${sheet.path}.html`]: `<meta (layout none)>\n${withLead(sheet.source)}` };
}

/** A page as literal markup: whatever a template would read in it is text. */
export function sheetOf(path: string, source: string): { sheet: Sheet; problem: string | undefined } {
  const escaped = literalMarkup(source);
  const { tree, diagnostics } = parseTemplate(escaped, path);
  const [first] = diagnostics;
  const problem = first ? `line ${tree.lines.at(first.span.start).line}: ${first.message}` : leftInCode(tree);
  return { sheet: { path, source: escaped, nodes: tree.children }, problem };
}

/** The proof that nothing of a page is code: it holds for the tree that is compiled, however the page was escaped. */
function leftInCode({ children, lines }: TemplateTree): string | undefined {
  const found =
    expressionsOf(children)[0] ?? elementsOf(children).flatMap((element): readonly Span[] => clausesOf(element))[0];
  return found && `line ${lines.at(found.start).line}: a template would read code here`;
}

/** The tree of an HTML document, each node with its place in it. */
export function documentTree(source: string): TemplateTree {
  return parseTemplate(source, 'page', { isPlain: true }).tree;
}
