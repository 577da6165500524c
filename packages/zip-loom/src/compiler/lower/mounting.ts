/** URLs from the root of the site, where the site is mounted below a path: fixed text in attributes gets that path. */
import { decodeHTMLAttribute } from 'entities';
import { attributeKind, escapeText, mountedURL } from '../../kernel/index.ts';
import type { Attribute, Element } from '../../language/index.ts';
import { ownerOf } from './attribute-owner.ts';

/** The attribute with the base in it, or the very same where it has no URL from the root of the site. */
export function withBase(element: Element, attribute: Attribute, base: string): Attribute {
  if (base === '') return attribute;
  const owner = ownerOf(element);
  switch (attributeKind(owner, attribute.name)) {
    case 'url':
    case 'image-url':
    case 'code-url':
    case 'drawing-url':
      return mountedURLValue(attribute, base);
    case 'url-list':
    case 'url-tokens':
      return changeList(attribute, base);
    default:
      return owner.refresh && attribute.name === 'content' ? changeRefresh(attribute, base) : attribute;
  }
}

/** An attribute that is one URL, below where the site is mounted. */
export function mountedURLValue(attribute: Attribute, base: string): Attribute {
  return changeStart(attribute, (text) => mountedURL(text, base));
}

/** HTML §4.2.5.3, “Refresh state” */
function changeRefresh(attribute: Attribute, base: string): Attribute {
  return changeStart(attribute, (text) =>
    text.replace(
      /^(\s*\d+\s*[;,]\s*url\s*=\s*["']?)(.*)$/is,
      (_, before: string, url: string) => before + mountedURL(url, base),
    ),
  );
}

/** Changes the fixed text that a value begins with. */
function changeStart(attribute: Attribute, change: (text: string) => string): Attribute {
  const [first, ...rest] = attribute.value ?? [];
  return first?.kind === 'text' ? changed(attribute, [withText(first, change), ...rest]) : attribute;
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
