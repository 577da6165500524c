/** Files of the project that templates name by relative addresses: style sheets, scripts, images. */

import type { Node } from 'acorn';
import { decodeHTMLAttribute } from 'entities';
import {
  type Attribute,
  attributeOf,
  didYouMean,
  type Element,
  type Expression,
  fixedValue,
  type Span,
  visit,
} from '../language/index.ts';
import { assetPath, escapeText } from '../runtime/index.ts';
import { complaints } from './complaints.ts';
import type { Resolution } from './resolution.ts';

/** Attributes of any element whose address may be that of a file. */
const addresses: ReadonlySet<string> = new Set(['href', 'src', 'poster', 'xlink:href']);

/** Attributes with several addresses, each with a condition behind it (HTML §4.8.4.2.1). */
const lists: ReadonlySet<string> = new Set(['srcset', 'imagesrcset']);

/** Whether an attribute may name files of the project. */
export function namesFiles({ name }: Attribute): boolean {
  return name === 'style' || addresses.has(name) || lists.has(name);
}

/**
 * The attribute with the addresses of its files, or the very same where it names none. Files that should be there and are not
 * are reported.
 */
export function withAssets(element: Element, attribute: Attribute, at: Resolution): Attribute {
  if (!at.assets || !attribute.value || !namesFiles(attribute)) return attribute;
  const needed = needsFile(element, attribute.name);
  if (attribute.name === 'style') return changeTexts(attribute, (text) => assetsOfStyle(text, attribute, at));
  const isFixed = attribute.value.every((part) => part.kind === 'text');
  if (!isFixed) return attribute;
  if (addresses.has(attribute.name))
    return changeTexts(attribute, (text) => assetAddress(text, needed ? attribute : undefined, at));
  return changeTexts(attribute, (text) =>
    text.replace(/(^|,)(\s*)([^\s,]\S*)/g, (_, comma: string, space: string, candidate: string) => {
      // A candidate may end in the comma that separates it from the next.
      const [, address = '', end = ''] = /^(.*?)(,*)$/.exec(candidate) ?? [];
      return comma + space + assetAddress(address, needed ? attribute : undefined, at) + end;
    }),
  );
}

/** A style sheet with the addresses of its files in `url(…)` (CSS Values §4.5). */
export function assetsOfStyle(css: string, place: Span, at: Resolution): string {
  if (!at.assets) return css;
  const token = /url\(\s*(?:"((?:[^"\\\n]|\\.)*)"|'((?:[^'\\\n]|\\.)*)'|([^\s"'()\\]*))\s*\)/gi;
  return css.replace(token, (whole, double?: string, single?: string, bare?: string) => {
    const address = double ?? single ?? bare ?? '';
    const found = assetAddress(address, place, at);
    return found === address ? whole : `url("${found.replaceAll('"', '%22')}")`;
  });
}

/** Reports `asset("…")` with the name of a file that is not there. */
export function checkAssetCalls(expression: Expression, at: Resolution): void {
  const { assets } = at;
  if (!assets || !expression.code.includes('asset')) return;
  visit(expression.syntax, (node: Node & { callee?: Node & { name?: unknown }; arguments?: Node[] }) => {
    const [argument] = node.type === 'CallExpression' && node.callee?.name === 'asset' ? (node.arguments ?? []) : [];
    const path = (argument as { value?: unknown } | undefined)?.value;
    const named = typeof path === 'string' ? assetPath(path) : undefined;
    if (named && !assets.has(named.path))
      at.report(argument!, complaints.missingAsset(named.path, didYouMean(named.path, assets.keys())));
  });
}

/** The address of the file that a relative address names; the same text where it names none. */
function assetAddress(address: string, needed: Span | undefined, at: Resolution): string {
  const { assets } = at;
  const named = assetPath(address);
  if (!assets || !named) return address;
  const found = assets.get(named.path);
  if (found !== undefined) return found + named.rest;
  if (needed) at.report(needed, complaints.missingAsset(named.path, didYouMean(named.path, assets.keys())));
  return address;
}

function changeTexts(attribute: Attribute, change: (text: string) => string): Attribute {
  let isChanged = false;
  const value = attribute.value!.map((part) => {
    if (part.kind !== 'text') return part;
    const before = decodeHTMLAttribute(part.text);
    const after = change(before);
    if (after === before) return part;
    isChanged = true;
    return { ...part, text: escapeText(after) };
  });
  return isChanged ? { ...attribute, value } : attribute;
}

/** Whether a page is broken without the file: a style sheet, a script, an image. */
function needsFile(element: Element, name: string): boolean {
  switch (element.name) {
    case 'link': {
      const rel = fixedValue(attributeOf(element, 'rel')) ?? '';
      return /(^|\s)(stylesheet|icon|apple-touch-icon|preload|modulepreload)(\s|$)/i.test(rel);
    }
    case 'script':
      return name === 'src';
    case 'img':
    case 'source':
    case 'input':
      return name === 'src' || name === 'srcset';
    case 'video':
      return name === 'poster';
    case 'image':
      return name === 'href' || name === 'xlink:href';
    default:
      return false;
  }
}
