/** Names of templates in a project’s own code: `put('arrival-row', …)`, `loom.respond(request, 'boats/list', …)`. */
import { isBuiltIn, type Template, type TemplateSet } from 'zip-loom/internal/compiler';
import type { Span } from 'zip-loom/internal/diagnostics';

/** A name between its quotation marks. */
export interface CodeName extends Span {
  name: string;
  kind: Template['kind'];
}

/** What shows pages, and what shows partials; a request may stand before the name. */
const calls =
  /\b(?:(render|stream|respond|page)|put|partial)\s*(?:<[^<>()]*>)?\(\s*(?:[\w$.]+\s*,\s*)?(['"`])([\w./-]+)\2/g;

/** In the order of the code. Code is not parsed: what only looks like a call counts too. */
export function namesInCode(source: string): CodeName[] {
  return [...source.matchAll(calls)].map((found) => {
    const [whole, page, , name = ''] = found;
    const end = found.index + whole.length - 1;
    return { name, kind: page ? 'page' : 'partial', start: end - name.length, end };
  });
}

/** The template that code means. */
export function namedByCode({ templates }: TemplateSet, { name, kind }: CodeName): Template | undefined {
  return templates.find((one) => one.name === name && one.kind === kind && !isBuiltIn(one));
}
