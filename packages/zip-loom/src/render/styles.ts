/** Values in `style` attributes (CSS Syntax §5.4, declarations). */

import type { Output } from '../kernel/index.ts';
import { renderDiagnostic } from './diagnostics.ts';
import { plain } from './text.ts';

/** Characters that neither end a declaration nor begin a string, an escape or a comment. */
const safeAlphabet = /^[\w \t.,%#+\-*/()]*$/;

/** What loads something, reads the page, or hides what follows: fixed text may have it, a value may neither bring nor complete it. */
const risky =
  /(?=(\/\*|\*\/|\/\/|(?:url|src|image|image-set|cross-fade|element|paint|attr|expression)[ \t\n\r\f]*\())/gi;

/**
 * One declaration with values: ` --depth: 4`, or nothing when a value cannot be there. `null`, `undefined`, `false` and ''
 * leave the declaration out; anything that could leave it is dropped and noted.
 * @param texts the fixed texts around the values, the first with the declaration’s name and colon
 */
export function declaration(out: Output, texts: readonly string[], values: readonly unknown[]): string {
  let result = texts[0]!;
  const risks = risksIn(result);
  for (let index = 0; index < values.length; index++) {
    const value = values[index];
    if (value === null || value === undefined || typeof value === 'boolean' || value === '') return '';
    const part = plain(value);
    if (!isSafeValue(part)) return dropped(out, texts, part);
    const text = texts[index + 1]!;
    result += part + text;
    for (const one of risksIn(text)) risks.push(one);
  }
  // A value may be a risk alone, or together with its neighbours.
  return risksIn(result).join() === risks.join() ? result : dropped(out, texts, values.map(plain).join(' '));
}

/** A whole style from a list of attributes: an object of declarations, or text. A declaration that cannot be there is left out. */
export function styleText(out: Output, value: unknown): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const isRecord = typeof value === 'object' && !Array.isArray(value);
  const declarations = (isRecord ? Object.entries(value) : written(plain(value))).map(([name, part]) => {
    if (/^-{0,2}[a-z][\w-]*$/i.test(name)) return declaration(out, [`${name}: `, ''], [part]);
    return dropped(out, [name], plain(part));
  });
  return declarations.filter((text) => text !== '').join('; ');
}

/** Text as names and values. What would be read otherwise, in strings and brackets, is refused as a value. */
function written(text: string): Array<[name: string, value: string]> {
  return text
    .split(';')
    .filter((one) => one.trim() !== '')
    .map((one) => {
      const colon = one.indexOf(':');
      return colon === -1 ? [one.trim(), ''] : [one.slice(0, colon).trim(), one.slice(colon + 1).trim()];
    });
}

function dropped(out: Output, texts: readonly string[], value: string): string {
  out.settings.note(renderDiagnostic('refused-style', { property: texts[0]!.split(':')[0]!.trim(), value }));
  return '';
}

function isSafeValue(text: string): boolean {
  if (!safeAlphabet.test(text)) return false;
  let depth = 0;
  for (const character of text) {
    if (character === '(') depth++;
    else if (character === ')' && --depth < 0) return false;
  }
  return depth === 0;
}

/** Every risk in some text, in its order; one may begin within another. */
function risksIn(text: string): string[] {
  return Array.from(unescaped(text).matchAll(risky), ([, found = '']) => found);
}

/** CSS Syntax §4.3.7: a name may be written in escapes. */
function unescaped(text: string): string {
  if (!text.includes('\\')) return text;
  return text.replace(/\\([\da-f]{1,6})[ \t\n\r\f]?|\\/gi, (_, code?: string) => {
    const point = code === undefined ? 0 : Number.parseInt(code, 16);
    return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : '';
  });
}
