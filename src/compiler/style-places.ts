/** Values in `style` attributes: only in the value of a declaration (CSS Syntax §5.4). */
import type { Substitution, Text } from '../language/index.ts';
import { fixedAttributeText } from './attribute-text.ts';
import { complaints } from './complaints.ts';
import { commaList, fixed, js, literal, out, type Part, print, runtime } from './parts.ts';

type Refuse = (complaint: ReturnType<typeof complaints.refusedStyle>) => undefined;

/** One declaration: fixed text, or text with values in it. */
interface Declaration {
  texts: string[];
  values: Substitution[];
}

/** The parts of a `style` attribute with values, or `undefined` when a value stands where none may. */
export function styleParts(value: Array<Text | Substitution>, prefix: string, refuse: Refuse): Part[] | undefined {
  if (value.length === 1) return refuse(complaints.refusedStyle('the place of a whole style'));
  const declarations = splitDeclarations(value);
  for (const { texts, values } of declarations) {
    if (values.length === 0) continue;
    if (!texts[0]!.includes(':')) return refuse(complaints.refusedStyle('the name of a property'));
    if (isInsideURL(texts)) return refuse(complaints.refusedStyle('url(…) of a style'));
  }
  const parts = declarations.flatMap(({ texts, values }): Part[] => {
    if (values.length === 0) return [fixed(fixedAttributeText(texts[0]!, false))];
    const around = texts.map((text) => js`${literal(fixedAttributeText(text, false))}`);
    const expressions = values.map((part) => js`${part.expression}`);
    return print(js`${runtime('declaration')}(${out}, [${commaList(around)}], [${commaList(expressions)}])`);
  });
  return [fixed(`${prefix}="`), ...parts, fixed('"')];
}

/** Splits at semicolons outside strings and brackets; each declaration keeps its own semicolon. */
function splitDeclarations(value: Array<Text | Substitution>): Declaration[] {
  const declarations: Declaration[] = [];
  let current: Declaration = { texts: [''], values: [] };
  let quote = '';
  let depth = 0;
  for (const part of value) {
    if (part.kind === 'substitution') {
      current.values.push(part);
      current.texts.push('');
      continue;
    }
    for (const character of part.text) {
      current.texts[current.texts.length - 1] += character;
      if (quote) quote = character === quote ? '' : quote;
      else if (character === '"' || character === "'") quote = character;
      else if (character === '(') depth++;
      else if (character === ')') depth--;
      else if (character === ';' && depth <= 0) {
        declarations.push(current);
        current = { texts: [''], values: [] };
      }
    }
  }
  if (current.values.length > 0 || current.texts[0] !== '') declarations.push(current);
  return declarations;
}

/** Whether one of the values stands between `url(` and its closing bracket. */
function isInsideURL(texts: string[]): boolean {
  let before = '';
  return texts.slice(0, -1).some((text) => {
    before += text;
    return /(?:url|src|image|image-set|expression)\(([^)]*)$/i.test(before);
  });
}
