/** What nearly all pages of a family have the same. */
import type { Sheet } from './parts.ts';
import { usualText } from './usual.ts';

/** What differs on few of many pages. */
export interface NearMiss {
  /** What it is about: the name of a slot or of an attribute. */
  name: string;
  usual: string;
  /** The pages where it is otherwise, and how. */
  others: Array<{ page: string; text: string }>;
}

/** One text on most pages, another on a few. */
export function nearMissOf(name: string, texts: readonly string[], sheets: readonly Sheet[]): NearMiss[] {
  const { usual, count } = usualText(texts);
  const few = texts.length - count;
  if (texts.length < 4 || few === 0 || few > texts.length / 4) return [];
  const others = texts.flatMap((text, page) => (text === usual ? [] : [{ page: sheets[page]!.path, text }]));
  return [{ name: name || 'the main content', usual, others }];
}
