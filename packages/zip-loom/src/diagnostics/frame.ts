/** A place in a template, shown to a reader: the line with its number, and a mark below it. */
import { Lines, type Span } from './lines.ts';

/** Frames show at most this much of a long line, so that a minified page does not fill the screen. */
const longestFrameLine = 160;

/** The line of the source that holds the start of the span, with its number, and the span underlined. */
export function codeFrame(source: string, span: Span): string {
  const { line, column } = new Lines(source).at(span.start);
  const lineStart = span.start - (column - 1);
  const nextBreak = source.indexOf('\n', span.start);
  const lineEnd = nextBreak === -1 ? source.length : nextBreak;
  let text = source.slice(lineStart, lineEnd).replace(/\r$/, '');
  let before = column - 1;
  let cut = '';
  if (text.length > longestFrameLine) {
    const from = Math.max(0, before - longestFrameLine / 2);
    cut = from > 0 ? '…' : '';
    text = text.slice(from, from + longestFrameLine);
    before -= from;
  }
  const width = Math.max(1, Math.min(span.end, lineEnd) - span.start, 1);
  const gutter = String(line);
  // Tabs are kept in the second line, so that the mark is below its place however wide a tab is shown.
  const indent = cut.replace(/./g, ' ') + text.slice(0, before).replace(/[^\t]/g, ' ');
  const mark = '~'.repeat(Math.min(width, Math.max(1, text.length - before)));
  return `  ${gutter} | ${cut}${text}\n  ${' '.repeat(gutter.length)} | ${indent}${mark}`;
}
