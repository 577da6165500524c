/** URLs from the root of the site, where the site is mounted below a path: fixed text in attributes gets that path. */
import { decodeHTMLAttribute } from 'entities';
import type { Attribute, Element } from '../../language/index.ts';
import { attributeKind, escapeText, mountedURL } from '../../page/index.ts';
import { ownerOf } from './attribute-owner.ts';

/** The attribute with the base in it, or the very same where it has no URL from the root of the site. */
export function withBase(element: Element, attribute: Attribute, base: string): Attribute {
  const [first, ...rest] = attribute.value ?? [];
  if (base === '' || first?.kind !== 'text' || !first.text.includes('/')) {
    return base !== '' && isList(element, attribute) ? changeList(attribute, base) : attribute;
  }
  const owner = ownerOf(element);
  switch (attributeKind(owner, attribute.name)) {
    case 'url':
    case 'image-url':
    case 'code-url':
      return changed(attribute, [withText(first, (text) => mountedURL(text, base)), ...rest]);
    case 'url-list':
    case 'url-tokens':
      return changeList(attribute, base);
    default: {
      if (!owner.refresh || attribute.name !== 'content') return attribute;
      // HTML §4.2.5.3, “Refresh state”
      const mount = (text: string) =>
        text.replace(
          /^(\s*\d+\s*[;,]\s*url\s*=\s*["']?)(.*)$/is,
          (_, before: string, url: string) => before + mountedURL(url, base),
        );
      return changed(attribute, [withText(first, mount), ...rest]);
    }
  }
}

function isList(element: Element, { name }: Attribute): boolean {
  const kind = attributeKind(ownerOf(element), name);
  return kind === 'url-list' || kind === 'url-tokens';
}

/** Several URLs: each begins at the start, or behind whitespace. */
function changeList(attribute: Attribute, base: string): Attribute {
  const value = (attribute.value ?? []).map((part, index) => {
    if (part.kind !== 'text') return part;
    const starts = index === 0 ? /(^|[\s,])(\/[^\s,]*)/g : /([\s,])(\/[^\s,]*)/g;
    return withText(part, (text) =>
      text.replace(starts, (_, before: string, url: string) => before + mountedURL(url, base)),
    );
  });
  return changed(attribute, value);
}

type ValuePart = NonNullable<Attribute['value']>[number];

function withText(part: Extract<ValuePart, { kind: 'text' }>, change: (text: string) => string): ValuePart {
  const before = decodeHTMLAttribute(part.text);
  const after = change(before);
  return after === before ? part : { ...part, text: escapeText(after) };
}

function changed(attribute: Attribute, value: ValuePart[]): Attribute {
  return value.every((part, index) => part === attribute.value?.[index]) ? attribute : { ...attribute, value };
}
