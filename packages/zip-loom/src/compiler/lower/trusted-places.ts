/** Where a template trusts a value, so that somebody can look at each place. */

import type { Span } from '../../diagnostics/index.ts';
import { attributeKind } from '../../kernel/index.ts';
import {
  type Element,
  expressionsOf,
  freeNames,
  type TemplateNode,
  type TemplateTree,
  walk,
} from '../../language/index.ts';
import { ownerOf } from './attribute-owner.ts';
import { isImportMap } from './json-scripts.ts';

/** Expressions that vouch for a value, and attributes whose value loads code; in the order of the source. */
export function trustedPlaces({ children }: TemplateTree): Span[] {
  const vouching = expressionsOf(children).filter(({ syntax }) =>
    freeNames(syntax).some(({ name }) => name === 'trustedHTML' || name === 'trustedURL'),
  );
  const code = codePlaces(children).filter((place) => !vouching.some((one) => isInside(one, place)));
  return [...vouching, ...code].sort((a, b) => a.start - b.start);
}

/** URLs of code that hold a value: it must be trusted, or are after fixed text. */
function codePlaces(nodes: readonly TemplateNode[]): Span[] {
  const places: Span[] = [];
  walk(nodes, {
    element(element) {
      for (const one of ofElement(element)) places.push(one);
      return undefined;
    },
  });
  return places;
}

function ofElement(element: Element): Span[] {
  if (isImportMap(element)) return element.children.filter((child) => child.kind === 'substitution');
  const owner = ownerOf(element);
  return element.items.filter(
    (item) =>
      item.kind === 'attribute' &&
      item.value?.some((part) => part.kind === 'substitution') &&
      /^(?:code|drawing)-url$/.test(attributeKind(owner, item.name)),
  );
}

function isInside(inner: Span, outer: Span): boolean {
  return inner.start >= outer.start && inner.end <= outer.end;
}
