/** All expressions of a tree, wherever they stand. */
import type { Attribute, Clause, Element, Expression, Spread, Substitution, TemplateNode, Text } from './tree.ts';

/** Expressions in the order of the source. */
export function expressionsOf(nodes: readonly TemplateNode[]): Expression[] {
  return nodes.flatMap((node) => {
    if (node.kind === 'substitution') return [node.expression];
    return node.kind === 'element' ? [...ofElement(node), ...expressionsOf(node.children)] : [];
  });
}

function ofElement(element: Element): Expression[] {
  return element.items.flatMap((item) =>
    item.kind === 'attribute' || item.kind === 'spread' ? ofItem(item) : ofClause(item),
  );
}

function ofItem(item: Attribute | Spread): Expression[] {
  return item.kind === 'spread' ? [item.expression] : ofValue(item.value ?? []);
}

function ofValue(value: ReadonlyArray<Text | Substitution>): Expression[] {
  return value.flatMap((part) => (part.kind === 'substitution' ? [part.expression] : []));
}

function ofClause(clause: Clause): Expression[] {
  switch (clause.kind) {
    case 'takes':
      return clause.parameters.flatMap((parameter) => parameter.fallback ?? []);
    case 'layout':
      return clause.items.flatMap(ofItem);
    case 'if':
    case 'else-if':
      return [clause.condition];
    case 'for':
      return [...clause.item.expressions, clause.items];
    case 'let':
    case 'await':
      return clause.bindings.flatMap(({ binding, value }) => [...binding.expressions, value]);
    case 'catch':
      return [...(clause.error?.expressions ?? [])];
    case 'bind':
      return [clause.form];
    case 'region':
      return [...ofValue(clause.name), ...clause.items.flatMap(ofItem)];
    case 'errors':
      return ofValue(clause.path);
    default:
      return [];
  }
}
