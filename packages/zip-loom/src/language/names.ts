/** Names in ECMAScript expressions: which a pattern binds, and which an expression takes from outside itself. */
import type { Identifier, MemberExpression, Node, Expression as SyntaxNode } from 'acorn';
import type { Span } from '../diagnostics/index.ts';
import { deepestExpression, tooDeepExpression } from './expression-error.ts';

/** A name that an expression takes from outside, with its place. */
export interface FreeName extends Span {
  name: string;
  /** Whether it is called as a function. */
  isCalled: boolean;
}

/**
 * Calls `enter` for a node and everything below it, in the order of the source.
 * @throws {ExpressionSyntaxError} for nodes that are nested too deeply
 */
export function visit(node: Node, enter: (node: Node) => void, depth = 0): void {
  if (depth > deepestExpression) throw tooDeepExpression(node.start);
  enter(node);
  if (node.type !== 'Identifier') for (const child of childrenOf(node)) visit(child, enter, depth + 1);
}

/** The name that an expression begins with, where it is that name or fields of it, as most are; `undefined` for any other. */
export function fieldRoot(expression: Node): Identifier | undefined {
  let node = expression;
  while (node.type === 'MemberExpression' && !(node as MemberExpression).computed)
    node = (node as MemberExpression).object;
  return node.type === 'Identifier' ? (node as Identifier) : undefined;
}

/** The names that a pattern binds, in the order of the source. */
export function patternNames(pattern: Node): string[] {
  const names: string[] = [];
  collectPatternNames(pattern as SyntaxLike, names);
  return names;
}

/** The expressions in a pattern: defaults, and names of fields that are worked out. */
export function patternExpressions(pattern: Node): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  visit(pattern, (node) => {
    const { type, right, computed, key } = node as SyntaxLike;
    if (type === 'AssignmentPattern') found.push(right as SyntaxNode);
    if (type === 'Property' && computed) found.push(key as SyntaxNode);
  });
  return found;
}

/** The names that an expression takes from outside itself, each time they are in it (ECMA-262 §8.2, lexical scoping). */
export function freeNames(expression: Node): FreeName[] {
  const root = fieldRoot(expression);
  if (root) return [{ name: root.name, start: root.start, end: root.end, isCalled: false }];
  const found: FreeName[] = [];
  collectFreeNames(expression as SyntaxLike, nothing, found);
  return found;
}

/** Where a name’s fields are read, as in `context.user`: the place of the name → the field. Fields that are worked out are left out. */
export function fieldsOf(expression: Node, name: string): Map<number, FreeName> {
  const fields = new Map<number, FreeName>();
  visit(expression, (node) => {
    if (node.type !== 'MemberExpression') return;
    const { object, property, computed } = node as MemberExpression;
    if (computed || object.type !== 'Identifier' || object.name !== name || property.type !== 'Identifier') return;
    fields.set(object.start, { name: property.name, start: property.start, end: property.end, isCalled: false });
  });
  return fields;
}

const nothing: ReadonlySet<string> = new Set();

/** ESTree nodes as this file reads them: any field may hold a node, a list of nodes or something else. */
type SyntaxLike = Node & { [field: string]: unknown };

function childrenOf(node: Node): SyntaxLike[] {
  const children: SyntaxLike[] = [];
  for (const field in node) {
    const value = (node as SyntaxLike)[field];
    if (isNode(value)) children.push(value);
    else if (Array.isArray(value)) for (const one of value) if (isNode(one)) children.push(one);
  }
  return children;
}

function isNode(value: unknown): value is SyntaxLike {
  return typeof value === 'object' && value !== null && 'type' in value && typeof value.type === 'string';
}

function collectPatternNames(node: SyntaxLike, names: string[]): void {
  switch (node.type) {
    case 'Identifier':
      names.push(String(node['name']));
      break;
    case 'AssignmentPattern':
      collectPatternNames(node['left'] as SyntaxLike, names);
      break;
    case 'Property':
      collectPatternNames(node['value'] as SyntaxLike, names);
      break;
    default:
      for (const child of childrenOf(node)) collectPatternNames(child, names);
  }
}

function collectFreeNames(node: SyntaxLike, scope: ReadonlySet<string>, found: FreeName[]): void {
  switch (node.type) {
    case 'Identifier': {
      const name = String(node['name']);
      if (!scope.has(name)) found.push({ name, start: node.start, end: node.end, isCalled: false });
      return;
    }
    case 'CallExpression': {
      const callee = node['callee'] as SyntaxLike;
      const before = found.length;
      collectFreeNames(callee, scope, found);
      if (callee.type === 'Identifier' && found.length > before) found[before]!.isCalled = true;
      for (const argument of node['arguments'] as SyntaxLike[]) collectFreeNames(argument, scope, found);
      return;
    }
    case 'MemberExpression':
      collectFreeNames(node['object'] as SyntaxLike, scope, found);
      if (node['computed']) collectFreeNames(node['property'] as SyntaxLike, scope, found);
      return;
    case 'Property':
    case 'PropertyDefinition':
    case 'MethodDefinition':
      if (node['computed']) collectFreeNames(node['key'] as SyntaxLike, scope, found);
      if (isNode(node['value'])) collectFreeNames(node['value'], scope, found);
      return;
    case 'LabeledStatement':
      collectFreeNames(node['body'] as SyntaxLike, scope, found);
      return;
    case 'BreakStatement':
    case 'ContinueStatement':
    case 'MetaProperty':
      return;
  }
  const inner = innerScope(node, scope);
  for (const child of childrenOf(node)) collectFreeNames(child, inner, found);
}

/** The scope inside a node: that around it, and what the node itself declares. */
function innerScope(node: SyntaxLike, scope: ReadonlySet<string>): ReadonlySet<string> {
  const declared: string[] = [];
  switch (node.type) {
    case 'ArrowFunctionExpression':
    case 'FunctionExpression':
    case 'FunctionDeclaration':
      for (const parameter of node['params'] as SyntaxLike[]) collectPatternNames(parameter, declared);
      if (node.type !== 'ArrowFunctionExpression') declared.push('arguments');
      if (isNode(node['id'])) collectPatternNames(node['id'], declared);
      break;
    case 'ClassExpression':
      if (isNode(node['id'])) collectPatternNames(node['id'], declared);
      break;
    case 'CatchClause':
      if (isNode(node['param'])) collectPatternNames(node['param'], declared);
      break;
    case 'BlockStatement':
    case 'ForStatement':
    case 'ForOfStatement':
    case 'ForInStatement':
      for (const statement of childrenOf(node)) collectDeclaredNames(statement, declared);
      break;
  }
  return declared.length === 0 ? scope : new Set([...scope, ...declared]);
}

function collectDeclaredNames(statement: SyntaxLike, names: string[]): void {
  if (statement.type === 'VariableDeclaration') {
    for (const declarator of statement['declarations'] as SyntaxLike[]) {
      collectPatternNames(declarator['id'] as SyntaxLike, names);
    }
  } else if (
    (statement.type === 'FunctionDeclaration' || statement.type === 'ClassDeclaration') &&
    isNode(statement['id'])
  ) {
    collectPatternNames(statement['id'], names);
  }
}
