/**
 * HTML that was not written as a template: everything in it that a template would read becomes text, so that compiling it
 * evaluates nothing of it.
 */
import { isJSONScriptType } from './elements.ts';
import { parseTemplate } from './parser.ts';
import { modeInside } from './tokenizer-mode.ts';
import { attributeOf, type Element, fixedValue, type TemplateNode } from './tree.ts';

declare const isLiteral: unique symbol;

/** HTML in which a template finds no substitution and no clause. Only `literalMarkup` makes it. */
export type LiteralMarkup = string & { readonly [isLiteral]: true };

/**
 * Escapes HTML for a template: `\${` prints `${`, and `\(` in a tag begins an attribute name with a parenthesis.
 * @param source HTML, as a browser reads it
 * @returns markup that prints the source, as far as a template can print it
 */
export function literalMarkup(source: string): LiteralMarkup {
  if (!source.includes('${') && !source.includes('(')) return source as LiteralMarkup;
  const backslashes: Backslashes[] = [];
  collect(parseTemplate(source, '', { isPlain: true }).tree.children, source, true, backslashes);
  let escaped = '';
  let copied = 0;
  for (const { at, count } of backslashes) {
    escaped += source.slice(copied, at) + '\\'.repeat(count);
    copied = at;
  }
  return (escaped + source.slice(copied)) as LiteralMarkup;
}

/** The text that escaped text prints: the other way round, for a piece of literal markup. */
export function printedText(written: string): string {
  return withBackslashes(written, (count) => count >> 1);
}

/** Text that prints as it is: backslashes before `${` are doubled, and one more comes before it. */
export function escapedText(text: string): string {
  return withBackslashes(text, (count) => 2 * count + 1);
}

/** @param countFor the number of backslashes before `${`, for the number that is there */
function withBackslashes(text: string, countFor: (count: number) => number): string {
  let out = '';
  let copied = 0;
  for (let at = text.indexOf('${'); at !== -1; at = text.indexOf('${', at + 2)) {
    const first = startOfBackslashes(text, at, copied);
    out += text.slice(copied, first) + '\\'.repeat(countFor(at - first));
    copied = at;
  }
  return out + text.slice(copied);
}

/** @param start how far back they may begin */
function startOfBackslashes(text: string, at: number, start: number): number {
  let first = at;
  while (first > start && text[first - 1] === '\\') first--;
  return first;
}

/** A place at which backslashes are added. */
interface Backslashes {
  at: number;
  count: number;
}

/** @param holdsValues whether a template reads substitutions in text of these nodes */
function collect(nodes: readonly TemplateNode[], source: string, holdsValues: boolean, found: Backslashes[]): void {
  for (const node of nodes) {
    if (node.kind === 'text' && holdsValues) inText(source, node.start, node.end, found);
    if (node.kind !== 'element') continue;
    for (const item of node.items) {
      if (item.kind !== 'attribute') continue;
      if (beginsOurs(source, item.start)) found.push({ at: item.start, count: 1 });
      for (const { start, end } of item.value ?? []) inText(source, start, end, found);
    }
    collect(node.children, source, readsValues(node), found);
  }
}

function inText(source: string, start: number, end: number, found: Backslashes[]): void {
  for (let at = source.indexOf('${', start); at !== -1 && at < end; at = source.indexOf('${', at + 2)) {
    found.push({ at, count: at - startOfBackslashes(source, at, start) + 1 });
  }
}

/** True for `(` and `${` at the start of an attribute name, backslashes before it left out. */
function beginsOurs(source: string, start: number): boolean {
  let at = start;
  while (source[at] === '\\') at++;
  return source[at] === '(' || source.startsWith('${', at);
}

/** True if a template reads substitutions in the content of the element. */
function readsValues(element: Element): boolean {
  if (element.namespace !== 'html') return true;
  const isJSON = element.name === 'script' && isJSONScriptType(fixedValue(attributeOf(element, 'type')) ?? '');
  const mode = modeInside(element.name, isJSON);
  return mode.kind === 'data' || (mode.kind === 'raw' && mode.holdsValues);
}
