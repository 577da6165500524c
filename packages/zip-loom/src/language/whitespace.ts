/**
 * Whitespace: HTML’s own (Infra §4.6), and how templates shed it, so that the source of a page reads like hand-written HTML. Whatever
 * looks at whitespace of markup looks here. Each function looks at no more than that space, once.
 */
import type { TemplateNode } from './tree.ts';

/** HTML whitespace (Infra §4.6): after the standard’s normalisation of line breaks, CR counts too. */
export function isSpace(code: number): boolean {
  return code === 0x20 || code === 0x0a || code === 0x09 || code === 0x0d || code === 0x0c;
}

/** Whether a text is only HTML whitespace. */
export function isBlankText(text: string): boolean {
  return skipSpace(text, 0) === text.length;
}

/** The first offset at or after `at` that is not HTML whitespace. */
export function skipSpace(source: string, at: number): number {
  let next = at;
  while (isSpace(source.charCodeAt(next))) next++;
  return next;
}

/** A text without HTML whitespace at both ends. */
export function trimSpace(text: string): string {
  return shedEnd(shedStart(text));
}

/** The keyword that an attribute holds: ASCII case and whitespace around it do not count. */
export function keyword(text: string): string {
  return trimSpace(text).toLowerCase();
}

/** The words of a text with HTML whitespace between them. */
export function spacedWords(text: string): string[] {
  return text.split(/[\t\n\f\r ]+/).filter((word) => word !== '');
}

/** Where the whitespace at the end of a text begins. */
export function endOfContent(text: string): number {
  let end = text.length;
  while (end > 0 && isSpace(text.charCodeAt(end - 1))) end--;
  return end;
}

/** Without the whitespace at the start. */
function shedStart(text: string): string {
  return text.slice(skipSpace(text, 0));
}

/** Without the whitespace at the end. */
function shedEnd(text: string): string {
  return text.slice(0, endOfContent(text));
}

/** Without the blank lines at the start, and the indent after them; whitespace on one line stays. */
function shedFirstLines(text: string): string {
  const start = skipSpace(text, 0);
  return text.lastIndexOf('\n', start - 1) === -1 || start === 0 ? text : text.slice(start);
}

/** Without the blank lines at the end; whitespace on one line stays. */
function shedLastLines(text: string): string {
  const end = endOfContent(text);
  return text.indexOf('\n', end) === -1 ? text : text.slice(0, end);
}

/** Without the line break after which only blanks are, and without those; the text itself where there is none. */
export function withoutBlankLastLine(text: string): string {
  const end = endOfBlanks(text);
  if (text[end - 1] !== '\n') return text;
  return text.slice(0, text[end - 2] === '\r' ? end - 2 : end - 1);
}

/** Without the blanks at the end, and without a line break before them. */
export function withoutIndent(text: string): string {
  const end = endOfBlanks(text);
  return end > 0 && text[end - 1] === '\n' ? withoutBlankLastLine(text) : text.slice(0, end);
}

/** Where the spaces and tabs at the end of a text begin. */
function endOfBlanks(text: string): number {
  let end = text.length;
  while (text[end - 1] === ' ' || text[end - 1] === '\t') end--;
  return end;
}

/** Whether only blanks are before an offset on its line, or before it from where the text begins. */
export function startsLine(source: string, offset: number, begin: number): boolean {
  let at = offset;
  while (at > begin && (source[at - 1] === ' ' || source[at - 1] === '\t')) at--;
  return source[at - 1] === '\n' || at === 0;
}

/** Where the whitespace before an offset begins. */
export function spaceBefore(source: string, offset: number): number {
  let start = offset;
  while (isSpace(source.charCodeAt(start - 1))) start--;
  return start;
}

/** Whether a line ends right after some blanks. */
export function startsWithLineEnd(text: string): boolean {
  return /^[\t ]*\r?\n/.test(text);
}

/** Whether nothing but blanks follows on a line. */
export function endsLine(text: string): boolean {
  return /^[\t ]*(?:\r?\n|$)/.test(text);
}

/** Whether a node is more than whitespace and comments. */
export function isContent(node: TemplateNode): boolean {
  return !(node.kind === 'comment' || (node.kind === 'text' && isBlankText(node.text)));
}

/** Content on lines of its own sheds the blank lines at its start and end; whitespace on one line is meant. */
export function trimBlock(nodes: TemplateNode[]): TemplateNode[] {
  return trim(nodes, shedFirstLines, shedLastLines);
}

/** Blank space at the start and the end of a called template is shed. */
export function trimBlank(nodes: TemplateNode[]): TemplateNode[] {
  return trim(nodes, shedStart, shedEnd);
}

/** As `trimBlank`, at the start only. */
export function trimStart(nodes: TemplateNode[]): TemplateNode[] {
  return trim(nodes, shedStart, (text) => text);
}

type Shed = (text: string) => string;

function trim(nodes: TemplateNode[], start: Shed, end: Shed): TemplateNode[] {
  let first = 0;
  let last = nodes.length;
  let firstText: TemplateNode | undefined;
  for (; first < last; first++) {
    const node = nodes[first]!;
    if (node.kind !== 'text') break;
    const text = start(node.text);
    if (text !== '') {
      if (text !== node.text) firstText = { ...node, text, start: node.end - text.length };
      break;
    }
    if (node.text === '') break;
  }
  const trimmed = nodes.slice(first);
  if (firstText) trimmed[0] = firstText;
  for (last = trimmed.length; last > 0; last--) {
    const node = trimmed[last - 1]!;
    if (node.kind !== 'text') break;
    const text = end(node.text);
    if (text !== '') {
      if (text !== node.text) trimmed[last - 1] = { ...node, text, end: node.start + text.length };
      break;
    }
    if (node.text === '') break;
  }
  return trimmed.slice(0, last);
}
