/** Helpers on text. */
import { plain } from '../text.ts';

/** Graphemes have this many code units at most, nearly always; longer ones are looked for in longer pieces. */
const unitsEach = 8;

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

/** Where so many graphemes of a text end. No more of the text is looked at than it takes. */
function endOfGraphemes(text: string, count: number, locale: string): number {
  const segmenter = new Intl.Segmenter(locale, { granularity: 'grapheme' });
  for (let size = (count + 1) * unitsEach; ; size *= 4) {
    const piece = text.slice(0, size);
    let left = count;
    for (const { index } of segmenter.segment(piece)) if (left-- === 0) return index;
    // The last grapheme of a piece may go on after it.
    if (piece.length === text.length) return text.length;
  }
}

function lastSpace(text: string): number {
  let at = text.length - 1;
  while (at >= 0 && !isSpaceAt(text, at)) at--;
  return at;
}

function isSpaceAt(text: string, at: number): boolean {
  return /\s/.test(text.charAt(at));
}
