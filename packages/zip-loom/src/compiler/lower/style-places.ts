/** Values in `style` attributes: only in the value of a declaration (CSS Syntax §5.4). */

import { decodeHTMLAttribute } from 'entities';
import type { Diagnostic } from '../../diagnostics/index.ts';
import type { Substitution, Text } from '../../language/index.ts';
import { commaList, js, literal, out, runtime } from '../code.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { fixed, type Part, print } from '../parts.ts';
import { printedAttributeText } from './attribute-text.ts';

type Refuse = (diagnostic: Diagnostic) => undefined;

/** One declaration: fixed text, or text with values in it. */
interface Declaration {
  texts: string[];
  values: Substitution[];
}

/** Functions whose argument is a URL. */
const loading = new Set(['url', 'src', 'image', 'image-set', '-webkit-image-set', 'expression']);

/** The parts of a `style` attribute with values, or `undefined` when a value is where none may. */
export function styleParts(value: Array<Text | Substitution>, prefix: string, refuse: Refuse): Part[] | undefined {
  if (value.length === 1)
    return refuse(templateDiagnostic('refused-style-value', { place: 'the place of a whole style' }));
  const style = new StyleReader();
  for (const part of value) {
    if (part.kind === 'text') {
      style.read(decodeHTMLAttribute(part.text));
      continue;
    }
    const refused = style.refusedPlace();
    if (refused !== undefined) return refuse(templateDiagnostic('refused-style-value', { place: refused }));
    style.take(part);
  }
  const parts = style.declarations().flatMap(({ texts, values }): Part[] => {
    if (values.length === 0) return [fixed(printedAttributeText(texts[0]!))];
    const around = texts.map((text) => js`${literal(printedAttributeText(text))}`);
    const expressions = values.map((part) => js`${part.expression}`);
    return print(js`${runtime('declaration')}(${out}, [${commaList(around)}], [${commaList(expressions)}])`);
  });
  return [fixed(`${prefix}="`), ...parts, fixed('"')];
}

/**
 * Reads the fixed text of a style and splits it at the semicolons that end declarations: strings, comments, escapes and brackets as
 * CSS Syntax §4 has them, as far as they decide where a value is.
 */
class StyleReader {
  private readonly done: Declaration[] = [];
  private current: Declaration = { texts: [''], values: [] };
  private quote = '';
  private inComment = false;
  private hasColon = false;
  /** Functions and brackets that are open: their names, '' for a bracket alone. */
  private readonly open: string[] = [];
  /** The name that may turn out to be that of a function. */
  private name = '';
  /** The end of the text at hand, in which an escape may go on. */
  private end = '';

  /** Reads fixed text. */
  read(text: string): void {
    for (let at = 0; at < text.length; ) {
      const length = this.step(text, at);
      this.end = text.slice(at, at + length);
      at += length;
    }
  }

  /** Where a value cannot be now, in words; `undefined` where it can. */
  refusedPlace(): string | undefined {
    if (this.inComment) return 'a comment of a style';
    if (this.open.some((name) => loading.has(name))) return 'url(…) of a style';
    if (/^\\[\da-f]{0,5}$/i.test(this.end)) return 'an escape of a style';
    return this.hasColon ? undefined : 'the name of a property';
  }

  take(value: Substitution): void {
    this.current.values.push(value);
    this.current.texts.push('');
    this.name = this.end = '';
  }

  /** Each declaration keeps its own semicolon. */
  declarations(): readonly Declaration[] {
    const { current, done } = this;
    return current.values.length > 0 || current.texts[0] !== '' ? [...done, current] : done;
  }

  /** Reads one character, or several that are one, and says how many. */
  private step(text: string, at: number): number {
    const escaped = /\\(?:[\da-f]{1,6}[ \t\n]?|[\s\S]|$)/iy;
    escaped.lastIndex = at;
    const character = this.inComment ? undefined : escaped.exec(text)?.[0];
    const taken = character ?? text[at]! + (this.endsOrBeginsComment(text, at) ? text[at + 1]! : '');
    this.current.texts[this.current.texts.length - 1] += taken;
    if (character !== undefined) this.name += character;
    else this.note(taken);
    return taken.length;
  }

  private endsOrBeginsComment(text: string, at: number): boolean {
    return this.inComment ? text.startsWith('*/', at) : this.quote === '' && text.startsWith('/*', at);
  }

  private note(taken: string): void {
    const { name } = this;
    this.name = /^[\w-]$/.test(taken) ? name + taken : '';
    if (taken === '/*' || taken === '*/') this.inComment = taken === '/*';
    else if (this.inComment) return;
    else if (this.quote) this.quote = taken === this.quote || taken === '\n' ? '' : this.quote;
    else if (taken === '"' || taken === "'") this.quote = taken;
    else if (taken === '(') this.open.push(name.toLowerCase());
    else if (taken === '[' || taken === '{') this.open.push('');
    else if (taken === ')' || taken === ']' || taken === '}') this.open.pop();
    else if (taken === ':') this.hasColon = true;
    else if (taken === ';' && this.open.length === 0) this.endDeclaration();
  }

  private endDeclaration(): void {
    this.done.push(this.current);
    this.current = { texts: [''], values: [] };
    this.hasColon = false;
  }
}
