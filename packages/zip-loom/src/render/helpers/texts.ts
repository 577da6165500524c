/** Helpers on text. */
import { plain } from '../text.ts';

/** A segmenter takes a time that grows with the square of its text: it is given pieces of so many code units. */
const pieceLength = 256;

/**
 * At most `length` graphemes of a text, cut at a word where one ends in the second half, with an ellipsis.
 * @param length how many graphemes are kept, the ellipsis not counted
 */
export function truncate(value: unknown, length: number, locale: string): string {
  const text = plain(value);
  // No text has more graphemes than code units.
  if (text.length <= length) return text;
  const most = Math.max(0, Math.floor(Number(length)) || 0);
  const end = endOfGraphemes(text, most, locale);
  if (end === text.length) return text;
  const cut = text.slice(0, end);
  const space = isSpaceAt(text, end) ? -1 : lastSpace(cut);
  return `${(space > end / 2 ? cut.slice(0, space) : cut).trimEnd()}…`;
}

/** A value as indented JSON, to look at. */
export function json(value: unknown): string {
  return JSON.stringify(value, null, 2) ?? String(value);
}

/** The offset at which so many graphemes of a text end. */
function endOfGraphemes(text: string, count: number, locale: string): number {
  const segmenter = new Intl.Segmenter(locale, { granularity: 'grapheme' });
  let left = count;
  let size = pieceLength;
  for (let start = 0; start < text.length; ) {
    const piece = text.slice(start, start + size);
    const starts = Array.from(segmenter.segment(piece), ({ index }) => index);
    const isLast = start + piece.length === text.length;
    // The last grapheme of a piece may go on after it: the next piece begins with it.
    const whole = isLast ? starts.length : starts.length - 1;
    if (left < whole) return start + starts[left]!;
    left -= whole;
    if (isLast) break;
    start += starts[whole]!;
    size = whole === 0 ? 2 * size : pieceLength;
  }
  return text.length;
}

function lastSpace(text: string): number {
  let at = text.length - 1;
  while (at >= 0 && !isSpaceAt(text, at)) at--;
  return at;
}

function isSpaceAt(text: string, at: number): boolean {
  return /\s/.test(text.charAt(at));
}
