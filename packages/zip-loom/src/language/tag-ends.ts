/** Where tags begin and end in text. */
import { character, lowerCase } from './characters.ts';
import { isSpace } from './whitespace.ts';

/** Where the name of a tag ends (§13.2.5.8). */
export function endOfTagName(source: string, start: number): number {
  let at = start;
  for (; at < source.length; at++) {
    if (endsTagName(source.charCodeAt(at))) break;
  }
  return at;
}

/** A `<title>` holds no elements, but a layout’s may have slots: whether a tag of one is at an offset. */
export function slotTagAt(source: string, at: number): 'start' | 'end' | undefined {
  const isEnd = source.charCodeAt(at + 1) === character.slash;
  const start = isEnd ? at + 2 : at + 1;
  if (source.charCodeAt(at) !== character.less || lowerCase(source.slice(start, start + 4)) !== 'slot')
    return undefined;
  if (!endsTagName(source.charCodeAt(start + 4))) return undefined;
  return isEnd ? 'end' : 'start';
}

/** §13.2.5.11: an end tag is appropriate when it has the name of the element and ends there. */
export function appropriateEndTag(source: string, name: string, from: number): number {
  for (let at = source.indexOf('</', from); at !== -1; at = source.indexOf('</', at + 2)) {
    const nameEnd = at + 2 + name.length;
    if (endsTagName(source.charCodeAt(nameEnd)) && lowerCase(source.slice(at + 2, nameEnd)) === name) return at;
  }
  return source.length;
}

function endsTagName(code: number): boolean {
  return code === character.greater || code === character.slash || isSpace(code);
}
