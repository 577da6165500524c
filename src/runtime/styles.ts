/** Values in `style` attributes (CSS Syntax §5.4, declarations). */
import { notices } from './notices.ts';
import type { Output } from './output.ts';
import { plain } from './text.ts';

/** Characters that neither end a declaration nor begin a string, an escape or a comment. */
const safeAlphabet = /^[\w\s.,%#+\-*/()]*$/;
/** Functions that load something or read the page. */
const loadingFunction = /(?:url|src|image|image-set|cross-fade|element|paint|attr|expression)\s*\(/i;

/**
 * One declaration with values: ` --depth: 4`, or nothing when a value cannot stand there. `null`, `undefined`, `false` and ''
 * leave the declaration out; anything that could leave it is dropped and noted.
 * @param texts the fixed texts around the values, the first with the declaration’s name and colon
 */
export function declaration(out: Output, texts: readonly string[], values: readonly unknown[]): string {
  let result = texts[0]!;
  for (let index = 0; index < values.length; index++) {
    const value = values[index];
    if (value === null || value === undefined || typeof value === 'boolean' || value === '') return '';
    const part = plain(value);
    if (!isSafeValue(part)) {
      const name = texts[0]!.split(':')[0]!.trim();
      out.settings.notice(notices.droppedStyle(name, part));
      return '';
    }
    result += part + texts[index + 1];
  }
  return result;
}

/** A whole style from a list of attributes: an object of declarations. Text is refused, for it may hold anything. */
export function styleText(out: Output, value: unknown): string {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    out.settings.notice(notices.droppedStyleList());
    return '';
  }
  const declarations = Object.entries(value).map(([name, part]) => {
    if (!/^-{0,2}[a-z][\w-]*$/i.test(name)) return '';
    return declaration(out, [`${name}: `, ''], [part]);
  });
  return declarations.filter((text) => text !== '').join('; ');
}

function isSafeValue(text: string): boolean {
  if (!safeAlphabet.test(text) || text.includes('/*') || text.includes('//') || loadingFunction.test(text))
    return false;
  let depth = 0;
  for (const character of text) {
    if (character === '(') depth++;
    else if (character === ')' && --depth < 0) return false;
  }
  return depth === 0;
}
