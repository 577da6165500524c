/**
 * Reads ECMAScript expressions and patterns that are in a template, with acorn. Each function starts at an offset of the
 * source and tells where the next token begins, so that the caller can look for `}` or `)`.
 */

import { type Node, type Options, Parser, type Pattern, type Expression as SyntaxNode } from 'acorn';
import type { Report } from '../diagnostics/index.ts';
import { character, continuesName, skipScriptSpace, startsName } from './characters.ts';
import { readingDiagnostic } from './diagnostics.ts';
import { deepestExpression, ExpressionSyntaxError, tooDeepExpression } from './expression-error.ts';
import { fieldRoot, patternExpressions, patternNames, visit } from './names.ts';
import type { Binding, Expression } from './tree.ts';
import { isSpace } from './whitespace.ts';

/** An expression and the offset of the first token after it. */
export interface ReadExpression {
  expression: Expression;
  next: number;
}

/** The parts of acorn's parser that its plugin interface offers and its types leave out. */
interface ParserInternals {
  /** How deep the parser is in calls of its own. */
  depth: number;
  start: number;
  nextToken(): void;
  parseExpression(): SyntaxNode;
  parseMaybeAssign(...details: unknown[]): SyntaxNode;
  parseMaybeUnary(...details: unknown[]): SyntaxNode;
  parseExprOp(...details: unknown[]): SyntaxNode;
  parseExprAtom(...details: unknown[]): SyntaxNode;
  parseStatement(...details: unknown[]): Node;
  parseBindingAtom(): Pattern;
  validateRegExpPattern(state: { source: string; start: number }): void;
}

const options: Options = {
  ecmaVersion: 2024,
  sourceType: 'module',
  preserveParens: true,
  // Else acorn looks for the start of the line at every expression.
  startLocation: { line: 1, column: 0 },
};

/**
 * Reads an expression, commas included.
 * @throws {ExpressionSyntaxError}
 */
export function readExpression(source: string, offset: number): ReadExpression {
  return readFields(source, offset) ?? readWith(source, offset, (parser) => parser.parseExpression());
}

/** Words that are no names where an expression begins (ECMA-262 §12.7.2). */
const reserved = new Set(
  'async await break case catch class const continue debugger default delete do else enum export extends false finally for function if import in instanceof let new null of return static super switch this throw true try typeof var void while with yield'.split(
    ' ',
  ),
);

/** Words that are no names of variables in modules besides (ECMA-262 §13.1.1). */
const reservedNames = new Set('arguments enum eval implements interface package private protected public'.split(' '));

/** A name, or fields of one, up to a closing bracket: most expressions are no more, and need no parser. */
function readFields(source: string, offset: number): ReadExpression | undefined {
  const start = skipScriptSpace(source, offset);
  let end = endOfName(source, start);
  const first = source.slice(start, end);
  if (first === '' || reserved.has(first)) return undefined;
  let syntax = { type: 'Identifier', start, end, name: first } as SyntaxNode;
  for (let depth = 1; source.charCodeAt(end) === character.dot; depth++) {
    if (depth > deepestExpression) throw tooDeepExpression(end);
    const nameStart = end + 1;
    end = endOfName(source, nameStart);
    if (end === nameStart) return undefined;
    const name = source.slice(nameStart, end);
    const property = { type: 'Identifier', start: nameStart, end, name } as const;
    syntax = { type: 'MemberExpression', start, end, object: syntax, property, computed: false, optional: false };
  }
  const next = skipScriptSpace(source, end);
  const after = source.charCodeAt(next);
  if (after !== character.closeBrace && after !== character.close) return undefined;
  return {
    expression: { code: syntax.type === 'Identifier' ? first : source.slice(start, end), syntax, start, end },
    next,
  };
}

/** The end of the name that begins at an offset; the offset itself where none does, or one beyond ASCII. */
function endOfName(source: string, start: number): number {
  if (!startsName(source.charCodeAt(start))) return start;
  let end = start + 1;
  while (continuesName(source.charCodeAt(end))) end++;
  return end;
}

/**
 * Reads one expression up to a comma, as in an argument list.
 * @throws {ExpressionSyntaxError}
 */
export function readArgument(source: string, offset: number): ReadExpression {
  return readWith(source, offset, (parser) => parser.parseMaybeAssign());
}

/**
 * Reads a name or a destructuring pattern.
 * @throws {ExpressionSyntaxError}
 */
export function readBinding(source: string, offset: number): { binding: Binding; next: number } {
  const plain = readName(source, offset);
  if (plain) return plain;
  const { node, next } = read(source, offset, (parser) => parser.parseBindingAtom());
  const { start, end } = node;
  const expressions = patternExpressions(node).map((syntax) => expressionOf(source, syntax));
  for (const { syntax } of expressions) visit(syntax, refuseEffect);
  return {
    binding: { code: source.slice(start, end), pattern: node, names: patternNames(node), expressions, start, end },
    next,
  };
}

/** A single name before a space, `,`, `=` or `)`: most bindings are no more. */
function readName(source: string, start: number): { binding: Binding; next: number } | undefined {
  const end = endOfName(source, start);
  const name = source.slice(start, end);
  const after = source.charCodeAt(end);
  const isWhole =
    isSpace(after) || after === character.comma || after === character.equals || after === character.close;
  if (!isWhole || name === '' || reserved.has(name) || reservedNames.has(name)) return undefined;
  const next = skipScriptSpace(source, end);
  // A comment may be before what follows.
  if (source.charCodeAt(next) === character.slash) return undefined;
  const pattern = { type: 'Identifier', start, end, name } as const;
  return { binding: { code: name, pattern, names: [name], expressions: none, start, end }, next };
}

/** Reports everything in an expression that does more than read: assignments, `await`, `import()` and the like. */
export function reportEffects(expression: Expression, report: Report): void {
  if (fieldRoot(expression.syntax)) return;
  visit(expression.syntax, (node) => {
    const what = effect(node);
    if (what) report(node, readingDiagnostic('refused-expression', { what }));
  });
}

const none: readonly Expression[] = [];

/** @throws {ExpressionSyntaxError} for a node that does more than read */
function refuseEffect(node: Node): void {
  const what = effect(node);
  if (what) throw new ExpressionSyntaxError(`${what} cannot stand in a template’s expression`, node.start);
}

/** An expression for places where none could be read, so that the rest of the template is still looked at. */
export function missingExpression(start: number, end: number): Expression {
  const syntax = { type: 'Literal', value: null, raw: 'null', start, end } as SyntaxNode;
  return { code: 'null', syntax, start, end };
}

/** V8 takes 65,535 in a call. */
const mostArguments = 60_000;

function effect(
  node: Node & { operator?: unknown; callee?: Node & { name?: unknown }; arguments?: readonly unknown[] },
): string | undefined {
  switch (node.type) {
    case 'AssignmentExpression':
      return 'An assignment';
    case 'UpdateExpression':
      return `“${String(node.operator)}”`;
    case 'AwaitExpression':
      return '“await”';
    case 'YieldExpression':
      return '“yield”';
    case 'ImportExpression':
      return '“import()”';
    case 'MetaProperty':
      return '“import.meta” or “new.target”';
    case 'ThisExpression':
      return '“this”';
    case 'UnaryExpression':
      return node.operator === 'delete' ? '“delete”' : undefined;
    case 'NewExpression':
    case 'CallExpression':
      if (node.arguments && node.arguments.length > mostArguments)
        return `A call with more than ${mostArguments} arguments`;
      return node.callee?.name === 'Function' ? '“Function”' : undefined;
    default:
      return undefined;
  }
}

function readWith(source: string, offset: number, step: (parser: ParserInternals) => SyntaxNode): ReadExpression {
  const { node, next } = read(source, offset, step);
  return { expression: expressionOf(source, node), next };
}

function expressionOf(source: string, syntax: SyntaxNode): Expression {
  const { start, end } = syntax;
  return { code: source.slice(start, end), syntax, start, end };
}

function read<T extends Node>(source: string, offset: number, step: (parser: ParserInternals) => T) {
  try {
    const parser = new StepParser(source, offset);
    parser.nextToken();
    return { node: step(parser), next: parser.start };
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    const position = 'pos' in error && typeof error.pos === 'number' ? error.pos : offset;
    // acorn adds “(1:23)”, counted in the whole source; the report has the place already.
    throw new ExpressionSyntaxError(error.message.replace(/ \(\d+:\d+\)$/, ''), position);
  }
}

const Internals = Parser as unknown as new (given: Options, source: string, offset: number) => ParserInternals;

/**
 * acorn’s parser, begun in the middle of a text. Counts how deep it is: acorn calls itself for what is nested, and V8 ends the process, not the call, where a regular
 * expression is first used at the end of the stack.
 */
class StepParser extends Internals {
  override depth = 0;

  constructor(source: string, offset: number) {
    super(options, source, offset);
  }

  override parseMaybeAssign(...details: unknown[]): SyntaxNode {
    return this.deeper(() => super.parseMaybeAssign(...details));
  }

  override parseMaybeUnary(...details: unknown[]): SyntaxNode {
    return this.deeper(() => super.parseMaybeUnary(...details));
  }

  override parseExprOp(...details: unknown[]): SyntaxNode {
    return this.deeper(() => super.parseExprOp(...details));
  }

  override parseExprAtom(...details: unknown[]): SyntaxNode {
    return this.deeper(() => super.parseExprAtom(...details));
  }

  override parseStatement(...details: unknown[]): Node {
    return this.deeper(() => super.parseStatement(...details));
  }

  override parseBindingAtom(): Pattern {
    return this.deeper(() => super.parseBindingAtom());
  }

  /** Both acorn and V8 call themselves for each bracket of a regular expression. */
  override validateRegExpPattern(state: { source: string; start: number }): void {
    let level = 0;
    for (const character of state.source) {
      if (character === '(' || character === '[') level++;
      else if (character === ')' || character === ']') level--;
      if (level > deepestExpression) throw tooDeepExpression(state.start);
    }
    super.validateRegExpPattern(state);
  }

  private deeper<Result>(read: () => Result): Result {
    if (++this.depth > deepestExpression) throw tooDeepExpression(this.start);
    const result = read();
    this.depth--;
    return result;
  }
}
