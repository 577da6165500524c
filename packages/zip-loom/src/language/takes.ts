/** Reads the TypeScript parts of clauses: the parameter list of `(takes …)` and the declaration of `(import …)`. */

import type { Report, Span } from '../diagnostics/index.ts';
import { skipScriptSpace } from './characters.ts';
import { ExpressionSyntaxError } from './expression-error.ts';
import { readArgument, reportEffects } from './expressions.ts';
import type { Expression, Parameter } from './tree.ts';

/**
 * Reads parameters up to the closing bracket: `a: T, b?: U, c = 1, ...rest`. Types are kept as text; default values are
 * expressions.
 * @throws {ExpressionSyntaxError}
 */
export function readParameters(
  source: string,
  offset: number,
  report: Report,
): { parameters: Parameter[]; next: number } {
  const parameters: Parameter[] = [];
  const names = new Set<string>();
  let at = skip(source, offset);
  while (source[at] !== ')') {
    const { parameter, next } = readParameter(source, at, report);
    if (names.has(parameter.name)) {
      throw new ExpressionSyntaxError(`“${parameter.name}” is taken twice`, parameter.start);
    }
    if (parameters.at(-1)?.kind === 'rest')
      throw new ExpressionSyntaxError('“...” stands before the last parameter', parameter.start);
    names.add(parameter.name);
    parameters.push(parameter);
    at = skip(source, next);
    if (source[at] === ',') at = skip(source, at + 1);
    else if (source[at] !== ')') throw new ExpressionSyntaxError('a “,” or “)” is missing', at);
  }
  return { parameters, next: at };
}

/**
 * Reads what follows the word `import` up to the closing bracket, as it would be in a module, and the names it brings.
 * @throws {ExpressionSyntaxError}
 */
export function readImport(source: string, offset: number): { code: string; types: string[]; next: number } {
  let at = isWordAt(source, offset, 'type') ? skipScriptSpace(source, offset + 4) : offset;
  const types: string[] = [];
  const first = nameAt(source, at);
  if (first !== '' && first !== 'from') {
    types.push(first);
    at = skipScriptSpace(source, at + first.length);
    if (source[at] === ',') at = skipScriptSpace(source, at + 1);
  }
  if (source[at] === '{') {
    const end = source.indexOf('}', at);
    if (end === -1) throw missingImport(offset);
    const named = source.slice(at + 1, end).split(',');
    for (const one of named.flatMap((part) => localName(part) || [])) types.push(one);
    at = skipScriptSpace(source, end + 1);
  } else if (source[at] === '*') {
    at = skipScriptSpace(source, at + 1);
    if (!isWordAt(source, at, 'as')) throw missingImport(offset);
    at = skipScriptSpace(source, at + 2);
    const name = nameAt(source, at);
    types.push(name);
    at = skipScriptSpace(source, at + name.length);
  }
  if (!isWordAt(source, at, 'from')) throw missingImport(offset);
  at = skipScriptSpace(source, at + 4);
  const end = source[at] === '"' || source[at] === "'" ? stringEnd(source, at) + 1 : at;
  if (end === at || source.slice(at, end).includes('\n')) throw missingImport(offset);
  return { code: source.slice(offset, end), types, next: end };
}

function missingImport(offset: number): ExpressionSyntaxError {
  return new ExpressionSyntaxError('an import declaration is missing', offset);
}

/** What `Berth`, `type Berth` or `Berth as B` is called in the template; '' for nothing. */
function localName(part: string): string {
  return part.trim().split(/\s/).at(-1) ?? '';
}

function nameAt(source: string, at: number): string {
  const name = /[\p{ID_Start}$_][\p{ID_Continue}$]*/uy;
  name.lastIndex = at;
  return name.exec(source)?.[0] ?? '';
}

function isWordAt(source: string, at: number, word: string): boolean {
  return nameAt(source, at) === word;
}

function readParameter(source: string, start: number, report: Report): { parameter: Parameter; next: number } {
  const rest = source.startsWith('...', start);
  const nameStart = rest ? skipScriptSpace(source, start + 3) : start;
  const name = nameAt(source, nameStart);
  if (name === '') throw new ExpressionSyntaxError('a parameter’s name is missing', start);
  if (reserved.has(name))
    throw new ExpressionSyntaxError(
      Object.hasOwn(wordsOfAttributes, name)
        ? `“${name}” is a word of ECMAScript; the attribute ${name}="…" of a call arrives as ${wordsOfAttributes[name]}`
        : `“${name}” is a word of the language and cannot be a name`,
      start,
    );
  const mark = skipScriptSpace(source, nameStart + name.length);
  const isOptional = source[mark] === '?';
  let next = skip(source, isOptional ? mark + 1 : mark);
  let type: string | undefined;
  let typeSpan: Span | undefined;
  if (source[next] === ':') {
    const typeStart = skip(source, next + 1);
    next = typeEnd(source, typeStart);
    type = source.slice(typeStart, next).trim();
    if (!type) throw new ExpressionSyntaxError(`the type of “${name}” is missing`, typeStart);
    typeSpan = { start: typeStart, end: typeStart + type.length };
  }
  let fallback: Expression | undefined;
  if (source[next] === '=') {
    const read = readArgument(source, skip(source, next + 1));
    reportEffects(read.expression, report);
    fallback = read.expression;
    next = read.next;
  }
  if (rest && (isOptional || fallback))
    throw new ExpressionSyntaxError('“...” takes what is left and needs no default', start);
  const named = { name, type, typeSpan, start, end: nameStart + name.length };
  if (rest) return { parameter: { kind: 'rest', ...named }, next };
  if (fallback) return { parameter: { kind: 'default', fallback, ...named }, next };
  return { parameter: { kind: isOptional ? 'optional' : 'required', ...named }, next };
}

/** Attributes that are words of ECMAScript, and what their arguments are called: as the DOM calls the properties. */
export const wordsOfAttributes: Readonly<Record<string, string>> = { class: 'className', for: 'htmlFor' };

/** Names that ECMAScript modules do not allow for a parameter, and those that templates have already. */
const reserved = new Set(
  (
    'arguments await break case catch class const continue debugger default delete do else enum eval export extends false finally ' +
    'for function if implements import in instanceof interface let new null package private protected public return static ' +
    'super switch this throw true try typeof var void while with yield context slots'
  ).split(' '),
);

/** The end of a TypeScript type: a `,`, `=` or `)` outside all its brackets and strings. */
function typeEnd(source: string, start: number): number {
  let depth = 0;
  for (let at = start; at < source.length; at++) {
    const character = source[at]!;
    if (character === '"' || character === "'" || character === '`') {
      at = stringEnd(source, at);
    } else if (source.startsWith('=>', at)) {
      at++;
    } else if ('([{<'.includes(character)) {
      depth++;
    } else if (depth > 0 && ')]}>'.includes(character)) {
      depth--;
    } else if (depth === 0 && (character === ',' || character === '=' || character === ')')) {
      return at;
    }
  }
  throw new ExpressionSyntaxError('the type has no end', start);
}

function stringEnd(source: string, start: number): number {
  for (let at = start + 1; at < source.length; at++) {
    if (source[at] === '\\') at++;
    else if (source[at] === source[start]) return at;
  }
  throw new ExpressionSyntaxError('the string has no end', start);
}

/** Skips whitespace and comments. */
function skip(source: string, at: number): number {
  for (let next = skipScriptSpace(source, at); ; next = skipScriptSpace(source, next)) {
    if (source.startsWith('/*', next)) {
      const end = source.indexOf('*/', next + 2);
      if (end === -1) return next;
      next = end + 2;
    } else if (source.startsWith('//', next)) {
      const end = source.indexOf('\n', next);
      next = end === -1 ? source.length : end;
    } else {
      return next;
    }
  }
}
