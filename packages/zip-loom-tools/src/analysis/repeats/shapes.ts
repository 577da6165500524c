/** The shape of markup: what it is but for its values. Two elements of one shape can be one partial. */
import { type Clause, clausesOf, type Element } from 'zip-loom/internal/language';
import { holdsCode, unitsOf } from './values.ts';

/** Gives shapes numbers, the same shape the same. */
export class Shapes {
  private readonly known = new Map<string, number>();

  /** The shape of an element; `note` is told of every element in it too. */
  of(element: Element, source: string, note: (element: Element, shape: number) => void): number {
    const items = element.items.map((item) => {
      if (item.kind === 'attribute') return `${item.name}${item.value ? '=' : ''}`;
      return item.kind === 'spread' ? '...' : clauseShape(item, source);
    });
    const children = unitsOf(element.children).map((unit) => {
      if (unit.kind === 'text') {
        if (holdsCode(element)) return `"${source.slice(unit.start, unit.end)}"`;
        return unit.isBlank ? ' ' : 'text';
      }
      const { node } = unit;
      return node.kind === 'element' ? this.of(node, source, note) : source.slice(node.start, node.end);
    });
    const text = JSON.stringify([element.name, element.namespace, items, children]);
    const shape = this.known.get(text) ?? this.known.size;
    this.known.set(text, shape);
    note(element, shape);
    return shape;
  }
}

/** What a clause says but for its expressions: the names that it binds, and what is written as it is. */
function clauseShape(clause: Clause, source: string): string {
  switch (clause.kind) {
    case 'if':
    case 'else-if':
    case 'bind':
      return clause.kind;
    case 'for':
      return `for ${clause.item.code} ${clause.index?.code ?? ''}`;
    case 'let':
    case 'await':
      return `${clause.kind} ${clause.bindings.map(({ binding }) => binding.code).join(' ')}`;
    default:
      return source.slice(clause.start, clause.end);
  }
}

/** Whether an element needs what is around it: a slot of its template, or the condition before it. */
export function belongsElsewhere(element: Element): boolean {
  const isTied = clausesOf(element).some(({ kind }) =>
    ['else', 'else-if', 'meanwhile', 'catch', 'takes', 'named', 'layout', 'inherited'].includes(kind),
  );
  return isTied || ['slot', 'html', 'head', 'body', 'meta', 'link', 'title', 'base'].includes(element.name);
}
