/** JavaScript as the compiler puts it together: text, with expressions of the template and names that only the generator can print. */
import type { ConditionalExpression, LogicalExpression, Node, ParenthesizedExpression } from 'acorn';
import type { Expression } from '../language/index.ts';

/** JavaScript text with holes for what only the generator can print: expressions of the template and names of the frame. */
export type Code = ReadonlyArray<string | Expression | Name>;

/** A name that the generated code needs and that must not clash with the template’s own. */
export interface Name {
  kind: 'name';
  /**
   * `runtime`: a function of the run-time. `frame`: something that is in every generated function. `constant`: something
   * that is made once, outside of the function.
   */
  from: 'runtime' | 'frame' | 'constant';
  name: string;
}

/** What generated code may call: a name that the run-time does not have does not compile. */
export type RuntimeName = keyof typeof import('../render/index.ts');

/** A function of the run-time. */
export function runtime(name: RuntimeName): Name {
  return { kind: 'name', from: 'runtime', name };
}

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

/** Code from a template literal: each value is an expression, a name, other code, or text. */
export function js(texts: TemplateStringsArray, ...values: Array<string | Expression | Name | Code>): Code {
  const tokens: Array<string | Expression | Name> = [];
  for (const [index, text] of texts.entries()) {
    if (text !== '') tokens.push(text);
    const value = values[index];
    if (value === undefined) continue;
    if (isCode(value)) for (const one of value) tokens.push(one);
    else tokens.push(value);
  }
  return tokens;
}

function isCode(value: string | Expression | Name | Code): value is Code {
  return Array.isArray(value);
}

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

/** Pieces of code with `+` between them. */
export function sum(pieces: readonly Code[]): Code {
  return pieces.length === 0 ? js`''` : joined(pieces, ' + ');
}

/** An expression whose value may be a promise that nobody waits for, as code that sees to it that it ends nothing. */
export function quietCode(expression: Expression): Code {
  return mayMake(expression.syntax) ? js`${runtime('quiet')}(${expression})` : js`${expression}`;
}

/** Whether a call or a field, which a function may be after, gives the value. Promises of the data itself are quiet. */
function mayMake(node: Node): boolean {
  switch (node.type) {
    case 'CallExpression':
    case 'MemberExpression':
    case 'ChainExpression':
      return true;
    case 'LogicalExpression':
      return mayMake((node as LogicalExpression).left) || mayMake((node as LogicalExpression).right);
    case 'ConditionalExpression':
      return mayMake((node as ConditionalExpression).consequent) || mayMake((node as ConditionalExpression).alternate);
    case 'ParenthesizedExpression':
      return mayMake((node as ParenthesizedExpression).expression);
    default:
      return false;
  }
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

/** Names that every object has would be there where nobody filled them. */
function fillKey(slot: string): string {
  return slot in {} ? `${slot} ` : slot;
}

/** The fill of a slot among all fills, as an object literal begins it. */
export function fillEntry(slot: string): string {
  return `${propertyName(fillKey(slot))}:`;
}

/** The fill of a slot, as it is read. */
export function fillAccess(fills: string, slot: string): string {
  const name = propertyName(fillKey(slot));
  return /^['"[]/.test(name) ? `${fills}[${literal(fillKey(slot))}]` : `${fills}.${name}`;
}

/** How long a piece of code is, about. */
export function lengthOf(code: Code): number {
  let length = 3;
  for (const token of code) {
    if (typeof token === 'string') length += token.length;
    else length += 'kind' in token ? token.name.length : token.code.length;
  }
  return length;
}

/** So long may a line of generated code be, about. */
export const longestLine = 100;
