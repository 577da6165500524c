/** `(into head)`: elements that a template places into a slot of the layout, once, however often the template is used. */
import type { Span } from '../../diagnostics/index.ts';
import { type Clause, clauseOf, clausesOf, type Element, spaceBefore, walk } from '../../language/index.ts';
import type { Template } from './template.ts';

/** An element, and the template in whose source it is. */
export interface PlacedElement {
  element: Element;
  template: Template;
}

/** Elements for slots of the layout, by slot, each once and in the order of the templates. */
export type PlacedElements = ReadonlyMap<string, readonly PlacedElement[]>;

/** Collects the elements over all that a page can call. */
export function collectPlaced(templates: Iterable<Template>): PlacedElements {
  const placed = new Map<string, PlacedElement[]>();
  const seen = new Set<string>();
  for (const template of templates) {
    for (const element of template.contents.placed) {
      const { slot } = clauseOf(element, 'into')!;
      const key = `${slot}\n${markupOf(element, template.tree.source)}`;
      // A value in it is reported where it is.
      if (seen.has(key) || !isFixedElement(element)) continue;
      seen.add(key);
      const items = element.items.map((item) => (item.kind === 'into' ? placeOfClause(item) : item));
      placed.set(slot, [...(placed.get(slot) ?? []), { element: { ...element, items }, template }]);
    }
  }
  return placed;
}

/** Whether an element is the same for every use: no values, no further clauses. */
export function isFixedElement(element: Element): boolean {
  let isFixed = clausesOf(element).length === 1;
  walk([element], {
    element(one) {
      isFixed &&= one === element || clausesOf(one).length === 0;
      return isFixed ? undefined : 'stop';
    },
    expression() {
      isFixed = false;
    },
  });
  return isFixed;
}

/** The element as written, without its clause. */
function markupOf(element: Element, source: string): string {
  const clause = clauseOf(element, 'into')!;
  return source.slice(element.start, spaceBefore(source, clause.start)) + source.slice(clause.end, element.end);
}

/** A clause that has been taken into account already: it prints nothing, and neither does its text. */
export function placeOfClause({ start, end }: Span): Clause {
  return { kind: 'let', bindings: [], start, end };
}
