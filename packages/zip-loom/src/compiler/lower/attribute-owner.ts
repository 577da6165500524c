/** What the compiler knows of the element that an attribute is on. */
import { decodeHTMLAttribute } from 'entities';
import type { AttributeOwner } from '../../kernel/index.ts';
import { type Attribute, attributeOf, type Element, fixedValue, keyword } from '../../language/index.ts';

/** What the compiler knows of the element that an attribute is on. */
export function ownerOf(element: Element): AttributeOwner {
  let owner = owners.get(element);
  if (!owner) {
    owner = {
      name: element.name,
      rel: decoded(attributeOf(element, 'rel')),
      refresh: isRefreshElement(element),
      svg: element.namespace === 'svg',
    };
    owners.set(element, owner);
  }
  return owner;
}

/** Each attribute of an element asks: an element of many attributes is looked through once. */
const owners = new WeakMap<Element, AttributeOwner>();

function isRefreshElement(element: Element): boolean {
  return element.name === 'meta' && keyword(decoded(attributeOf(element, 'http-equiv')) ?? '') === 'refresh';
}

/** Fixed text of an attribute as a browser reads it. */
function decoded(attribute: Attribute | undefined): string | undefined {
  const text = fixedValue(attribute);
  return text === undefined ? undefined : decodeHTMLAttribute(text);
}
