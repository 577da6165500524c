/** Helpers on text. */
import { plain } from '../text.ts';

/**
 * At most `length` graphemes of a text, cut at a word where one ends in the second half, with an ellipsis.
 * @param length how many graphemes may stand, the ellipsis not counted
 */
export function truncate(value: unknown, length: number, locale: string): string {
  const text = plain(value);
  // No text has more graphemes than code units.
  if (text.length <= length) return text;
  const segments = [...new Intl.Segmenter(locale, { granularity: 'grapheme' }).segment(text)];
  if (segments.length <= length) return text;
  const cut = segments
    .slice(0, Math.max(0, length))
    .map((segment) => segment.segment)
    .join('');
  const next = segments[length]!.segment;
  const lastSpace = cut.search(/\s\S*$/);
  const atWord = !/\s/.test(next) && lastSpace > cut.length / 2 ? cut.slice(0, lastSpace) : cut;
  return `${atWord.trimEnd()}…`;
}

/** A value as indented JSON, to look at. */
export function json(value: unknown): string {
  return JSON.stringify(value, null, 2) ?? '';
}
