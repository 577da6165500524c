/** The one walk over a template’s tree, in the order of the source. */
import type { Attribute, Clause, Element, Expression, Spread, Substitution, TemplateNode, Text } from './tree.ts';

/** What somebody wants to know of a tree. */
export interface TreeVisitor {
  /** An element, before what is in it. `skip` leaves its content out, `stop` ends the walk. */
  element?(element: Element): 'skip' | 'stop' | undefined;
  /** The same element, after its content. Not called for one that was skipped. */
  leave?(element: Element): void;
  /** A substitution in text. */
  substitution?(substitution: Substitution): 'stop' | undefined;
  /** Any expression: of a substitution, an attribute or a clause. */
  expression?(expression: Expression): void;
}

/** Walks over nodes and all that is in them. False where the visitor ended it. */
export function walk(nodes: readonly TemplateNode[], visitor: TreeVisitor): boolean {
  for (const node of nodes) {
    if (node.kind === 'substitution') {
      if (visitor.substitution?.(node) === 'stop') return false;
      visitor.expression?.(node.expression);
    } else if (node.kind === 'element') {
      const next = visitor.element?.(node);
      if (next === 'stop') return false;
      if (visitor.expression) for (const expression of tagExpressions(node)) visitor.expression(expression);
      if (next === 'skip') continue;
      if (!walk(node.children, visitor)) return false;
      visitor.leave?.(node);
    }
  }
  return true;
}

/** All elements in a tree, in the order of the source. */
export function elementsOf(nodes: readonly TemplateNode[]): Element[] {
  const found: Element[] = [];
  walk(nodes, {
    element: (element) => {
      found.push(element);
      return undefined;
    },
  });
  return found;
}

/** All expressions in a tree, in the order of the source. */
export function expressionsOf(nodes: readonly TemplateNode[]): Expression[] {
  const found: Expression[] = [];
  walk(nodes, {
    expression: (expression) => {
      found.push(expression);
    },
  });
  return found;
}

/** The expressions in the start tag of an element. */
export function tagExpressions(element: Element): Expression[] {
  const found: Expression[] = [];
  for (const item of element.items) {
    if (item.kind === 'attribute' || item.kind === 'spread') for (const one of ofItem(item)) found.push(one);
    else for (const one of ofClause(item)) found.push(one);
  }
  return found;
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
      return clause.parameters.flatMap((parameter) => (parameter.kind === 'default' ? [parameter.fallback] : []));
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
    case 'add':
      return ofValue(clause.list);
    case 'remove':
      return [...ofValue(clause.list), ...ofValue(clause.index)];
    case 'select-all':
      return ofValue(clause.boxes);
    case 'import':
    case 'named':
    case 'else':
    case 'meanwhile':
    case 'inherited':
    case 'into':
    case 'refresh':
    case 'back':
      return [];
  }
}
