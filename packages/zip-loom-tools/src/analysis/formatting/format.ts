/**
 * Lays a template out evenly. Whitespace is all that it changes, and only where it stands already: none comes between what had none
 * between it, so that a browser shows the same.
 */
import {
  attributeOf,
  type Element,
  endOfContent,
  fixedValue,
  skipSpace,
  type TemplateNode,
  type TemplateTree,
  trimSpace,
} from 'zip-loom/internal/language';
import { startTagText, step } from './start-tag.ts';

/** Blank lines that are kept beside each other. */
const mostBlankLines = 1;

/** The same template, laid out. */
export function formatted({ source, children }: TemplateTree): string {
  const layout = new Layout(source);
  layout.nodes(children, { inside: '', end: '' });
  return layout.text();
}

/** With what the lines begin in an element, and with what that of its end tag begins, or what comes behind it without one. */
interface Indents {
  inside: string;
  end: string;
}

class Layout {
  private readonly source: string;
  private readonly lineEnd: string;
  private out = '';
  /** With what the present line begins. */
  private indent = '';

  constructor(source: string) {
    this.source = source;
    this.lineEnd = /\r\n/.test(source) ? '\r\n' : '\n';
  }

  text(): string {
    const text = trimSpace(this.out);
    return text === '' ? '' : text + this.lineEnd;
  }

  nodes(nodes: readonly TemplateNode[], { inside, end }: Indents): void {
    for (const [at, node] of nodes.entries()) {
      const after = at + 1 < nodes.length ? inside : end;
      if (node.kind === 'text') this.words(this.source.slice(node.start, node.end), { inside, end: after });
      else if (node.kind === 'element') this.element(node, after);
      else if (node.kind === 'substitution') this.out += withoutEdges(this.source.slice(node.start, node.end));
      else this.out += this.source.slice(node.start, node.end);
    }
  }

  private words(text: string, { inside, end }: Indents): void {
    const pieces = wordsAndBreaks(text);
    for (const [at, piece] of pieces.entries()) {
      const isLast = at === pieces.length - 2 && pieces.at(-1) === '';
      if (at % 2 === 1) this.breakLine(piece.split('\n').length - 1, isLast ? end : inside);
      else this.out += piece;
    }
  }

  private breakLine(breaks: number, indent: string): void {
    this.out += this.lineEnd.repeat(Math.min(breaks, 1 + mostBlankLines)) + indent;
    this.indent = indent;
  }

  private element(element: Element, after: string): void {
    const { source, indent, lineEnd } = this;
    const column = this.out.length - (this.out.lastIndexOf('\n') + 1);
    this.out += startTagText(element, { source, column, indent, lineEnd });
    const { endTag, startTag, children } = element;
    if (keepsSpace(element)) {
      const end = endTag?.start ?? children.at(-1)?.end ?? startTag.end;
      this.out += source.slice(startTag.end, end);
    } else this.nodes(children, { inside: indent + step, end: endTag ? indent : after });
    if (endTag) this.out += source.slice(endTag.start, endTag.end).replace(/[ \t\n\f\r]+/g, '');
  }
}

/** Whether the whitespace in an element is shown, or is code. */
export function keepsSpace(element: Element): boolean {
  if (/^(?:pre|textarea|listing|xmp|plaintext|script|style)$/.test(element.name)) return true;
  if (attributeOf(element, 'xml:space')) return true;
  const style = fixedValue(attributeOf(element, 'style'));
  // A style that is worked out may be of any kind.
  if (style === undefined && attributeOf(element, 'style')) return true;
  return /white-space/i.test(style ?? '');
}

/** Words and line breaks by turns, with the whitespace around breaks left out; words are first and last. */
function wordsAndBreaks(text: string): string[] {
  const [first = '', ...lines] = text.split('\n');
  const pieces = [lines.length === 0 ? first : first.slice(0, endOfContent(first))];
  for (const [at, line] of lines.entries()) {
    const words = at === lines.length - 1 ? line.slice(skipSpace(line, 0)) : trimSpace(line);
    if (pieces.length > 1 && pieces.at(-1) === '') pieces.splice(-2, 2, `${pieces.at(-2)}\n`, words);
    else pieces.push('\n', words);
  }
  return pieces;
}

/** `${ name }` → `${name}` */
function withoutEdges(code: string): string {
  return /[\r\n]/.test(code) ? code : `\${${code.slice(2, -1).trim()}}`;
}
