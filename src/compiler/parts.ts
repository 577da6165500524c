/**
 * The resolved tree: what a template does when it runs, with all names settled. The pass before knows HTML, the pass after
 * knows JavaScript; these types are all that they share.
 */

import type { Span } from '../diagnostics/index.ts';
import type { Binding, Expression, Namespace } from '../language/index.ts';
import type { Template } from './set/template-set.ts';

export type Part =
  | { kind: 'static'; text: string }
  /** Code whose result, already escaped, is printed. */
  | { kind: 'value'; code: Code }
  /** The first branch whose condition holds; a branch without a condition is the last. */
  | { kind: 'if'; branches: Array<{ condition: Code | undefined; parts: Part[] }> }
  | {
      kind: 'for';
      item: Binding;
      index: Binding | undefined;
      items: Expression;
      parts: Part[];
      otherwise: Part[] | undefined;
      /** As for calls. */
      skippable: boolean;
    }
  /** Content for values that may be promises. */
  | {
      kind: 'await';
      values: Expression[];
      /** What binds the values, as parameters of a function. */
      bindings: Binding[];
      parts: Part[];
      /** What stands there until then, when the page need not wait. */
      meanwhile: Part[] | undefined;
      failed: { error: Binding | undefined; parts: Part[] } | undefined;
      /** The clause. */
      place: Span;
      namespace: Namespace;
      /** As for calls. */
      skippable: boolean;
    }
  | { kind: 'let'; bindings: Array<{ binding: Binding; value: Expression }>; parts: Part[] }
  /** `place` is the tag that calls. `before` goes with a template that may print nothing. */
  | {
      kind: 'call';
      template: Template;
      recursive: boolean;
      values: Code;
      fills: FillPart[];
      place: Span;
      before?: string;
      /** Whether neither it nor its fills hold a region, in a project that has some. */
      skippable: boolean;
    }
  /** A place that fills go to. `before` is printed only with a fill; `own` stands where nothing fills it. */
  | { kind: 'slot'; name: string; values: Code | undefined; before: string; own: Part[] }
  /** A call that writes by itself. */
  | { kind: 'run'; code: Code }
  /** A part that can change by itself. `holds` tells which regions may stand inside. */
  | { kind: 'region'; enter: Code; parts: Part[]; place: Span }
  /**
   * A name for a value that the parts use; `place` is where an error in it is reported. Working it out prints nothing, so it
   * may happen before the text around it is printed. A name that is text is one that the author knows.
   */
  | { kind: 'const'; name: Name | string; value: Code; parts: Part[]; place: Span }
  /** `<slot (inherited)>`: what the fill at hand replaces. */
  | { kind: 'inherited' };

/** What fills one slot: all pieces whose condition holds, in order. Where none holds, the slot is not filled. */
export interface FillPart {
  slot: string;
  /** Names that the slot gives, as a destructuring pattern. */
  takes: Code | undefined;
  pieces: Array<{ condition: Code | undefined; parts: Part[] }>;
}

/** JavaScript text with holes for what only the generator can print: expressions of the template and names of the frame. */
export type Code = ReadonlyArray<string | Expression | Name>;

/** A name that the generated code needs and that must not clash with the template’s own. */
export interface Name {
  kind: 'name';
  /**
   * `runtime`: a function of the run-time. `frame`: something that stands in every generated function. `constant`: something
   * that is made once, outside of the function.
   */
  from: 'runtime' | 'frame' | 'constant';
  name: string;
}

/** What generated code may call: a name that the run-time does not have does not compile. */
export type RuntimeName = keyof typeof import('../runtime/index.ts');

/** A function of the run-time. */
export function runtime(name: RuntimeName): Name {
  const known = runtimeNames.get(name) ?? { kind: 'name', from: 'runtime', name };
  runtimeNames.set(name, known);
  return known;
}

const runtimeNames = new Map<string, Name>();

/** The output that the template writes to. */
export const out: Name = { kind: 'name', from: 'frame', name: 'out' };

/** What the caller fills the template’s slots with. */
export const fills: Name = { kind: 'name', from: 'frame', name: 'fills' };

/** A name of the frame that is like no other: `bound1`, `bound2`. */
export function local(name: string, number: number): Name {
  return { kind: 'name', from: 'frame', name: `${name}${number}` };
}

/** A constant outside of the function. */
export function constant(name: string, number: number): Name {
  return { kind: 'name', from: 'constant', name: `${name}${number}` };
}

/** Text that is printed as it is. */
export function fixed(text: string): Part {
  return { kind: 'static', text };
}

/** Code whose result is printed. */
export function print(code: Code): Part[] {
  return [{ kind: 'value', code }];
}

/** Adds text to parts. Text behind text is one. */
export function addText(parts: Part[], text: string): void {
  if (text === '') return;
  const last = parts[parts.length - 1];
  if (last?.kind === 'static') last.text += text;
  else parts.push({ kind: 'static', text });
}

/** Adds parts to others, which may come to change them. */
export function addParts(parts: Part[], more: readonly Part[]): void {
  for (const part of more) {
    if (part.kind === 'static') addText(parts, part.text);
    else parts.push(part);
  }
}

/** Code from a template literal: each value is an expression, a name, other code, or text. */
export function js(texts: TemplateStringsArray, ...values: Array<string | Expression | Name | Code>): Code {
  let length = 0;
  for (let index = 0; index < texts.length; index++) {
    const text = texts[index]!;
    if (text !== '') tokens[length++] = text;
    const value = values[index];
    if (value === undefined) continue;
    if (isCode(value)) for (const token of value) tokens[length++] = token;
    else tokens[length++] = value;
  }
  return tokens.slice(0, length);
}

/** Where code is put together: a list that grows by itself takes more memory than most pieces of code need. */
const tokens: Array<string | Expression | Name> = [];

/** Several pieces of code with commas between them. */
export function commaList(pieces: readonly Code[]): Code {
  return joined(pieces, ', ');
}

/** Several pieces of code with some text between them. */
export function joined(pieces: readonly Code[], between: string): Code {
  if (pieces.length === 1) return pieces[0]!;
  const code: Array<string | Expression | Name> = [];
  for (const [index, piece] of pieces.entries()) {
    if (index > 0) code.push(between);
    for (const token of piece) code.push(token);
  }
  return code;
}

/** A JavaScript string, in the quotes that leave its text readable. */
export function literal(text: string): string {
  const json = JSON.stringify(text);
  const inner = lineSeparators(text) ? json.replace(/[\u2028\u2029]/g, unicodeEscape) : json;
  const holdsDouble = text.includes('"');
  const holdsSingle = text.includes("'");
  if (holdsSingle && !holdsDouble) return inner;
  const bare = holdsDouble ? inner.slice(1, -1).replaceAll('\\"', '"') : inner.slice(1, -1);
  return `'${holdsSingle ? bare.replaceAll("'", "\\'") : bare}'`;
}

/** Whether a text holds what ends a line of source but none of text (ECMA-262 §12.3). */
function lineSeparators(text: string): boolean {
  return text.includes('\u2028') || text.includes('\u2029');
}

function unicodeEscape(character: string): string {
  return `\\u${character.charCodeAt(0).toString(16)}`;
}

/** Plain data as JavaScript, in one line. */
export function dataLiteral(value: unknown): string {
  if (typeof value === 'string') return literal(value);
  if (Array.isArray(value)) return `[${value.map(dataLiteral).join(', ')}]`;
  if (typeof value !== 'object' || value === null) return String(value);
  const entries = Object.entries(value).map(([name, one]) => `${propertyName(name)}: ${dataLiteral(one)}`);
  return entries.length === 0 ? '{}' : `{ ${entries.join(', ')} }`;
}

/** A property name in an object literal. `__proto__` must be computed, or it would set the prototype (ECMA-262 §B.3.1). */
export function propertyName(name: string): string {
  if (name === '__proto__') return '["__proto__"]';
  return /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u.test(name) ? name : literal(name);
}

function isCode(value: string | Expression | Name | Code): value is Code {
  return Array.isArray(value);
}
