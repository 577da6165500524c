/** Reads the TypeScript parts of clauses: the parameter list of `(takes …)` and the declaration of `(import …)`. */
import { character, skipScriptSpace } from './characters.ts';
import { ExpressionSyntaxError, readArgument, reportEffects } from './expressions.ts';
import type { Report } from './problem.ts';
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
  let at = skip(source, offset);
  while (source[at] !== ')') {
    const { parameter, next } = readParameter(source, at, report);
    if (parameters.some((other) => other.name === parameter.name)) {
      throw new ExpressionSyntaxError(`“${parameter.name}” is taken twice`, parameter.start);
    }
    if (parameters.at(-1)?.rest)
      throw new ExpressionSyntaxError('“...” stands before the last parameter', parameter.start);
    parameters.push(parameter);
    at = skip(source, next);
    if (source[at] === ',') at = skip(source, at + 1);
    else if (source[at] !== ')') throw new ExpressionSyntaxError('a “,” or “)” is missing', at);
  }
  return { parameters, next: at };
}

/**
 * Reads what follows the word `import` up to the closing bracket, as it would stand in a module, and the names it brings.
 * @throws {ExpressionSyntaxError}
 */
export function readImport(source: string, offset: number): { code: string; types: string[]; next: number } {
  const declaration =
    /(?:type\s+)?(?:([\p{ID_Start}$_][\p{ID_Continue}$]*)\s*,?\s*)?(?:\{([^}]*)\}|\*\s*as\s+([\p{ID_Start}$_][\p{ID_Continue}$]*))?\s*from\s*("[^"\n]*"|'[^'\n]*')/uy;
  declaration.lastIndex = offset;
  const found = declaration.exec(source);
  if (!found) throw new ExpressionSyntaxError('an import declaration is missing', offset);
  const named = (found[2] ?? '').split(',').map((part) => part.trim().replace(/^type\s+/, ''));
  const types = [found[1], found[3], ...named.map((part) => part.split(/\s+as\s+/).at(-1))];
  return { code: found[0], types: types.filter((name): name is string => !!name), next: declaration.lastIndex };
}

function readParameter(source: string, start: number, report: Report): { parameter: Parameter; next: number } {
  const head = /(\.\.\.\s*)?([\p{ID_Start}$_][\p{ID_Continue}$]*)\s*(\?)?/uy;
  head.lastIndex = start;
  const found = head.exec(source);
  if (!found) throw new ExpressionSyntaxError('a parameter’s name is missing', start);
  const rest = found[1] !== undefined;
  const name = found[2]!;
  if (reserved.has(name))
    throw new ExpressionSyntaxError(`“${name}” is a word of the language and cannot be a name`, start);
  let next = skip(source, head.lastIndex);
  let type: string | undefined;
  if (source[next] === ':') {
    const typeStart = skip(source, next + 1);
    next = typeEnd(source, typeStart);
    type = source.slice(typeStart, next).trim();
    if (!type) throw new ExpressionSyntaxError(`the type of “${name}” is missing`, typeStart);
  }
  let fallback: Expression | undefined;
  if (source[next] === '=') {
    const read = readArgument(source, skip(source, next + 1));
    reportEffects(read.expression, report);
    fallback = read.expression;
    next = read.next;
  }
  if (rest && (found[3] || fallback))
    throw new ExpressionSyntaxError('“...” takes what is left and needs no default', start);
  const required = !rest && !found[3] && !fallback;
  return { parameter: { name, type, required, rest, fallback, start, end: head.lastIndex }, next };
}

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

/** Skips white space and comments. */
function skip(source: string, at: number): number {
  const next = skipScriptSpace(source, at);
  if (source.charCodeAt(next) !== character.slash) return next;
  const blank = /(?:\s|\/\*[\s\S]*?\*\/|\/\/[^\n]*)*/y;
  blank.lastIndex = next;
  blank.test(source);
  return blank.lastIndex;
}
