/** Values of an expression that the templates themselves write out. */
import type { Pattern, Expression as SyntaxNode } from 'acorn';
import type { Binding, Element, Parameter } from 'zip-loom/internal/language';

/** Names that elements around bind, the nearest first; below them the parameters of the template. */
export interface Scope {
  names: ReadonlyMap<string, Origin>;
  outer: Scope | undefined;
}

/** The source of a name’s value. */
type Origin =
  | { kind: 'parameter'; name: string }
  /** Part of an expression, or of each item of one. */
  | { kind: 'value'; value: SyntaxNode; isItem: boolean; steps: readonly string[]; scope: Scope };

/** A text that is written out, or a parameter: its callers write it. */
export type Written = { kind: 'text'; text: string; start: number; end: number } | { kind: 'parameter'; name: string };

/** The most names and parts that are followed one after another. */
const deepest = 20;

/** The parameters of a template. */
export function parameterScope(parameters: readonly Parameter[]): Scope {
  const names = parameters.map(({ name }) => [name, { kind: 'parameter', name }] as const);
  return { names: new Map<string, Origin>(names), outer: undefined };
}

/** The names inside an element. */
export function scopeIn(element: Element, outer: Scope): Scope {
  let scope = outer;
  const bind = ({ pattern }: Binding, value: SyntaxNode, isItem: boolean) => {
    const names = namesOf(pattern).map(
      ([name, steps]) => [name, { kind: 'value', value, isItem, steps, scope } as const] as const,
    );
    scope = { names: new Map<string, Origin>(names), outer: scope };
  };
  for (const item of element.items) {
    if (item.kind === 'for') bind(item.item, item.items.syntax, true);
    if (item.kind === 'let') for (const { binding, value } of item.bindings) bind(binding, value.syntax, false);
  }
  return scope;
}

/** The texts with which a value may begin. */
export function writtenStarts(node: SyntaxNode, scope: Scope): Written[] {
  return valuesOf(node, scope, 0).flatMap(({ node: value, scope: around }): Written[] => {
    if (value.type === 'Literal' && typeof value.value === 'string')
      return [{ kind: 'text', text: value.value, start: value.start, end: value.end }];
    if (value.type === 'TemplateLiteral') {
      const text = value.quasis[0]?.value.cooked ?? '';
      if (text !== '') return [{ kind: 'text', text, start: value.start, end: value.end }];
      return value.expressions[0] ? writtenStarts(value.expressions[0], around) : [];
    }
    if (value.type === 'BinaryExpression' && value.operator === '+' && value.left.type !== 'PrivateIdentifier')
      return writtenStarts(value.left, around);
    if (value.type !== 'Identifier') return [];
    const origin = originOf(value.name, around);
    return origin?.kind === 'parameter' ? [{ kind: 'parameter', name: origin.name }] : [];
  });
}

interface Placed {
  node: SyntaxNode;
  scope: Scope;
}

/** The values of an expression: follows names and parts, and takes both ways of a choice. */
function valuesOf(node: SyntaxNode, scope: Scope, depth: number): Placed[] {
  if (depth > deepest) return [];
  const of = (one: SyntaxNode, around = scope) => valuesOf(one, around, depth + 1);
  switch (node.type) {
    case 'ParenthesizedExpression':
      return of(node.expression);
    case 'ConditionalExpression':
      return [...of(node.consequent), ...of(node.alternate)];
    case 'LogicalExpression':
      return node.operator === '&&' ? of(node.right) : [...of(node.left), ...of(node.right)];
    case 'ChainExpression':
      return of(node.expression);
    case 'MemberExpression': {
      const { object, property, computed } = node;
      if (object.type === 'Super' || property.type === 'PrivateIdentifier') return [];
      const step = !computed && property.type === 'Identifier' ? property.name : literalStep(property);
      return step === undefined ? [] : of(object).flatMap((one) => partsOf(one, step, depth));
    }
    case 'Identifier': {
      const origin = originOf(node.name, scope);
      if (origin?.kind !== 'value') return [{ node, scope }];
      let values = of(origin.value, origin.scope);
      if (origin.isItem) values = values.flatMap((one) => itemsOf(one, depth));
      for (const step of origin.steps) values = values.flatMap((one) => partsOf(one, step, depth));
      return values;
    }
    default:
      return [{ node, scope }];
  }
}

function itemsOf({ node, scope }: Placed, depth: number): Placed[] {
  if (node.type !== 'ArrayExpression') return [];
  return node.elements.flatMap((item) =>
    item && item.type !== 'SpreadElement' ? valuesOf(item, scope, depth + 1) : [],
  );
}

function partsOf({ node, scope }: Placed, step: string, depth: number): Placed[] {
  if (node.type === 'ArrayExpression') {
    const item = node.elements[Number(step)];
    return item && item.type !== 'SpreadElement' ? valuesOf(item, scope, depth + 1) : [];
  }
  if (node.type !== 'ObjectExpression') return [];
  return node.properties.flatMap((one) => {
    if (one.type !== 'Property' || one.computed) return [];
    const key = one.key.type === 'Identifier' ? one.key.name : literalStep(one.key);
    return key === step ? valuesOf(one.value, scope, depth + 1) : [];
  });
}

function literalStep(node: SyntaxNode): string | undefined {
  return node.type === 'Literal' ? String(node.value) : undefined;
}

function originOf(name: string, scope: Scope): Origin | undefined {
  for (let one: Scope | undefined = scope; one; one = one.outer) {
    const found = one.names.get(name);
    if (found) return found;
  }
  return undefined;
}

/** The names of a pattern, each with the way to its part. */
function namesOf(pattern: Pattern, steps: readonly string[] = []): Array<[name: string, steps: readonly string[]]> {
  switch (pattern.type) {
    case 'Identifier':
      return [[pattern.name, steps]];
    case 'AssignmentPattern':
      return namesOf(pattern.left, steps);
    case 'ArrayPattern':
      return pattern.elements.flatMap((one, at) => (one ? namesOf(one, [...steps, String(at)]) : []));
    case 'ObjectPattern':
      return pattern.properties.flatMap((one) =>
        one.type === 'Property' && !one.computed && one.key.type === 'Identifier'
          ? namesOf(one.value, [...steps, one.key.name])
          : [],
      );
    default:
      return [];
  }
}
