/** How a start tag is laid out: on one line, or with a line for each of its items. */
import type { Element } from 'zip-loom/internal/language';

/** Longer lines are broken where they can be. */
const widestLine = 120;

/** Spaces of one step to the right. */
export const step = '  ';

export interface TagPlace {
  source: string;
  /** Where the tag begins in its line, in UTF-16 code units. */
  column: number;
  /** What the line begins with. */
  indent: string;
  lineEnd: string;
}

export function startTagText(element: Element, { source, column, indent, lineEnd }: TagPlace): string {
  const { startTag, items } = element;
  const opening = source.slice(startTag.start, startTag.start + 1 + element.name.length);
  const last = items.at(-1)?.end ?? startTag.start + opening.length;
  const closes = source.slice(last, startTag.end).includes('/');
  const texts = items.map((item) => itemText(item, source));
  // Without quotes the slash would belong to the value.
  const line = `${[opening, ...texts].join(' ')}${closes ? ' /' : ''}>`;
  if (items.length < 2 || !isBroken(line, element, { source, column, indent })) return line;
  const lines = [opening, ...texts.map((text) => indent + step + text), `${indent}${closes ? '/' : ''}>`];
  return lines.join(lineEnd);
}

/** A tag that begins a line is broken where it is too long, and others where the author did that. */
function isBroken(
  line: string,
  { items, startTag }: Element,
  { source, column, indent }: Pick<TagPlace, 'source' | 'column' | 'indent'>,
): boolean {
  const isMultiline = /[\r\n]/.test(line);
  if (!isMultiline && column + line.length <= widestLine) return false;
  if (!isMultiline && column === indent.length) return true;
  let end = startTag.start;
  return items.some((item) => {
    const between = source.slice(end, item.start);
    end = item.end;
    return /[\r\n]/.test(between);
  });
}

function itemText(item: Element['items'][number], source: string): string {
  const text = source.slice(item.start, item.end);
  if (item.kind === 'spread') return text;
  if (item.kind !== 'attribute') return clauseText(text);
  const name = source.slice(item.start, item.nameSpan.end);
  return item.value
    ? name + source.slice(item.nameSpan.end, item.end).replace(/^[ \t\n\f\r]*=[ \t\n\f\r]*/, '=')
    : name;
}

/** `( if free )` → `(if free)`. What is in it is code, and left alone. */
function clauseText(text: string): string {
  let end = text.length - 1;
  while (text[end - 1] === ' ' || text[end - 1] === '\t') end--;
  return `${text
    .slice(0, end)
    .replace(/^\([ \t]+/, '(')
    .replace(/^(\([\w-]+)[ \t]+/, '$1 ')})`;
}
