/**
 * Reads ECMAScript expressions and patterns that stand in a template, with acorn. Each function starts at an offset of the
 * source and tells where the next token begins, so that the caller can look for `}` or `)`.
 */
import { type Node, type Options, Parser, type Pattern, type Expression as SyntaxNode } from 'acorn';
import { complaints } from './complaints.ts';
import { patternNames, visit } from './names.ts';
import type { Report } from './problem.ts';
import type { Binding, Expression } from './tree.ts';

/** An expression and the offset of the first token after it. */
export interface ReadExpression {
  expression: Expression;
  next: number;
}

/** Why an expression could not be read, and where acorn stopped. */
export class ExpressionSyntaxError extends Error {
  readonly offset: number;

  constructor(message: string, offset: number) {
    super(message);
    this.offset = offset;
  }
}

/** The parts of acorn's parser that its plugin interface offers and its types leave out. */
interface ParserInternals {
  start: number;
  nextToken(): void;
  parseExpression(): SyntaxNode;
  parseMaybeAssign(): SyntaxNode;
  parseBindingAtom(): Pattern;
}

const options: Options = { ecmaVersion: 2024, sourceType: 'module', preserveParens: true };

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

/** A name, or fields of one, up to the closing bracket: most expressions are no more, and need no parser. */
function readFields(source: string, offset: number): ReadExpression | undefined {
  const path = /\s*([A-Za-z_$][\w$]*(?:\.[A-Za-z_$][\w$]*)*)\s*(?=[})])/y;
  path.lastIndex = offset;
  const [all, code] = path.exec(source) ?? [];
  if (all === undefined || code === undefined) return undefined;
  const start = offset + all.length - all.trimStart().length;
  const [first = '', ...fields] = code.split('.');
  if (reserved.has(first)) return undefined;
  let end = start + first.length;
  let syntax = { type: 'Identifier', name: first, start, end } as SyntaxNode;
  for (const name of fields) {
    const property = { type: 'Identifier', name, start: end + 1, end: end + 1 + name.length };
    end = property.end;
    syntax = {
      type: 'MemberExpression',
      object: syntax,
      property,
      computed: false,
      optional: false,
      start,
      end,
    } as SyntaxNode;
  }
  return { expression: { code, syntax, start, end }, next: offset + all.length };
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
  const { node, next } = read(source, offset, (parser) => parser.parseBindingAtom());
  const code = source.slice(node.start, node.end);
  return { binding: { code, pattern: node, names: patternNames(node), start: node.start, end: node.end }, next };
}

/** Reports everything in an expression that does more than read: assignments, `await`, `import()` and their like. */
export function reportEffects(expression: Expression, report: Report): void {
  visit(expression.syntax, (node) => {
    const what = effect(node);
    if (what) report(node, complaints.expressionEffect(what));
  });
}

/** An expression for places where none could be read, so that the rest of the template is still looked at. */
export function missingExpression(start: number, end: number): Expression {
  const syntax = { type: 'Literal', value: null, raw: 'null', start, end } as SyntaxNode;
  return { code: 'null', syntax, start, end };
}

function effect(node: Node & { operator?: unknown; callee?: Node & { name?: unknown } }): string | undefined {
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
      return node.callee?.name === 'Function' ? '“Function”' : undefined;
    default:
      return undefined;
  }
}

function readWith(source: string, offset: number, step: (parser: ParserInternals) => SyntaxNode): ReadExpression {
  const { node, next } = read(source, offset, step);
  return {
    expression: { code: source.slice(node.start, node.end), syntax: node, start: node.start, end: node.end },
    next,
  };
}

function read<T extends Node>(source: string, offset: number, step: (parser: ParserInternals) => T) {
  try {
    const parser = new StepParser(source, offset).internals();
    parser.nextToken();
    return { node: step(parser), next: parser.start };
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    const position = 'pos' in error && typeof error.pos === 'number' ? error.pos : offset;
    // acorn adds “(1:23)”, counted in the whole source; the report has the place already.
    throw new ExpressionSyntaxError(error.message.replace(/ \(\d+:\d+\)$/, ''), position);
  }
}

/** acorn's parser, begun in the middle of a text. */
class StepParser extends Parser {
  constructor(source: string, offset: number) {
    super(options, source, offset);
  }

  internals(): ParserInternals {
    return this as unknown as ParserInternals;
  }
}
