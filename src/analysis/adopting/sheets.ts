/** Pages as they are read, and as they are written where they stand alone. */
import { parseTemplate, type TemplateTree } from '../../language/index.ts';
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

/** A page as it is read: what templates would take for a substitution is written as text. */
export function sheetOf(path: string, source: string): { sheet: Sheet; problem: string | undefined } {
  const escaped = withoutSubstitutions(source);
  const { tree, diagnostics } = parseTemplate(escaped, path);
  const [first] = diagnostics;
  const problem = first && `line ${tree.lines.at(first.span.start).line}: ${first.message}`;
  return { sheet: { path, source: escaped, nodes: tree.children }, problem };
}

/** The tree of a document, each node with its place in it: what looks like a substitution is text. */
export function documentTree(source: string): TemplateTree {
  const { tree } = parseTemplate(source.replaceAll('${', '_{'), 'page');
  return { ...tree, source };
}

/** In scripts, styles and comments there are none. Backslashes before one stand for half as many. */
function withoutSubstitutions(source: string): string {
  const parts = source.split(/(<!--[\s\S]*?-->|<(script|style)\b[\s\S]*?<\/\2\s*>)/i);
  return parts
    .map((part, at) => (at % 3 === 2 ? '' : at % 3 === 1 ? part : part.replace(/(\\*)\$\{/g, '$1$1\\${')))
    .join('');
}
