/** Reads the arguments of `(layout name …)`, which are written as in a tag. */

import type { Report } from '../diagnostics/index.ts';
import { readAttribute, readSpread } from './attributes.ts';
import { character, skipScriptSpace } from './characters.ts';
import type { Attribute, Spread } from './tree.ts';

/** Reads up to the clause's closing bracket or the end of the source. */
export function readLayoutItems(
  source: string,
  offset: number,
  report: Report,
): { items: Array<Attribute | Spread>; next: number } {
  const items: Array<Attribute | Spread> = [];
  let at = offset;
  for (;;) {
    at = skipScriptSpace(source, at);
    const code = source.charCodeAt(at);
    const isEnd = code === character.close || code === character.open || code === character.greater;
    if (isEnd || at >= source.length) return { items, next: at };
    const item = source.startsWith('${...', at)
      ? readSpread(source, at, report)
      : readAttribute(source, at, 'clause', report);
    items.push(item);
    at = Math.max(item.end, at + 1);
  }
}
