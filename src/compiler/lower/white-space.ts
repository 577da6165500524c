/** White space at the ends of text: HTML’s own (Infra §4.6). Each function looks at no more than that space, once. */
import { isSpace, skipSpace } from '../../language/index.ts';

/** Where the white space at the end of a text begins. */
export function endOfContent(text: string): number {
  let end = text.length;
  while (end > 0 && isSpace(text.charCodeAt(end - 1))) end--;
  return end;
}

/** Without the white space at the start. */
export function shedStart(text: string): string {
  return text.slice(skipSpace(text, 0));
}

/** Without the white space at the end. */
export function shedEnd(text: string): string {
  return text.slice(0, endOfContent(text));
}

/** Without the blank lines at the start, and the indent behind them; white space on one line stays. */
export function shedFirstLines(text: string): string {
  const start = skipSpace(text, 0);
  return text.lastIndexOf('\n', start - 1) === -1 || start === 0 ? text : text.slice(start);
}

/** Without the blank lines at the end; white space on one line stays. */
export function shedLastLines(text: string): string {
  const end = endOfContent(text);
  return text.indexOf('\n', end) === -1 ? text : text.slice(0, end);
}

/** Without the line break behind which only blanks stand, and without those; the text itself where there is none. */
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
