/**
 * What a template loads and where it leads: the sources of its Content-Security-Policy (CSP Level 3), as far as its markup tells.
 * What a value decides is only as narrow as the rules for its place are.
 */

import { sha256 } from '@noble/hashes/sha2.js';
import { decodeHTMLAttribute } from 'entities';
import { attributeKind, flashTemplate, readURL, settlesHost } from '../../kernel/index.ts';
import {
  type Attribute,
  attributeOf,
  type Element,
  fixedValue,
  isJSONScriptType,
  spacedWords,
  trimSpace,
} from '../../language/index.ts';
import { assetsOfStyle, withAssets } from './assets.ts';
import { ownerOf } from './attribute-owner.ts';
import { isImportMap } from './json-scripts.ts';
import type { Lowering } from './place.ts';

/** Notes what one element loads. */
export function noteSources(element: Element, whole: Lowering): void {
  noteElement(element, whole);
  for (const item of element.items) {
    if (item.kind !== 'attribute') continue;
    if (item.name === 'style') noteStyle(item, whole);
    else noteAttribute(element, item, whole);
  }
}

/** Scripts that browsers run: without a type, of a type of JavaScript, or modules (HTML §4.12.1.1, “prepare the script element”). */
const scriptTypes =
  /^(?:|module|(?:text|application)\/(?:x-)?(?:java|ecma)script|text\/(?:javascript1\.[0-5]|jscript|livescript))$/i;

function noteElement(element: Element, whole: Lowering): void {
  const { sources } = whole;
  switch (element.name) {
    case 'script': {
      const type = trimSpace(fixedValue(attributeOf(element, 'type')) ?? '');
      if (isJSONScriptType(type) ? !isImportMap(element) : !scriptTypes.test(type)) return;
      sources.add('script-src');
      if (!urlOf(element)) noteInline('script-src', element, whole);
      return;
    }
    case 'style':
      sources.add('style-src');
      noteInline('style-src', element, whole);
      return;
    case 'form':
      if (!attributeOf(element, 'action')) sources.add('form-action', "'self'");
      return;
  }
}

function urlOf(element: Element): Attribute | undefined {
  return ['src', 'href', 'xlink:href'].flatMap((name) => attributeOf(element, name) ?? [])[0];
}

/** The text of a script or a style sheet, as a hash where it is fixed. */
function noteInline(directive: string, element: Element, whole: Lowering): void {
  let text = '';
  for (const child of element.children) {
    if (child.kind !== 'text') {
      whole.sources.askForNonce();
      return;
    }
    text += element.name === 'style' ? assetsOfStyle(child.text, child, whole) : child.text;
  }
  if (element.name === 'style') noteStyleText(text, whole);
  // In SVG the text of both is markup.
  whole.sources.add(directive, hashOf(element.namespace === 'html' ? text : decodeHTMLAttribute(text)));
}

/** CSP §8.2 of text as the browser has it: line breaks are those of HTML (Infra §4.6). */
function hashOf(text: string): string {
  const seen = text.replace(/\r\n?/g, '\n').replaceAll('\0', '\ufffd');
  const digest = sha256(new TextEncoder().encode(seen));
  return `'sha256-${btoa(String.fromCharCode(...digest))}'`;
}

function noteAttribute(element: Element, attribute: Attribute, whole: Lowering): void {
  const { sources } = whole;
  const { name } = attribute;
  if (name.startsWith('on') && attribute.value) {
    sources.add('script-src-attr', "'unsafe-hashes'", hashOf(decodeHTMLAttribute(fixedValue(attribute) ?? '')));
    return;
  }
  for (const directive of directivesOf(element, name)) {
    const shown = withAssets(element, attribute, { ...whole, report: () => {} });
    const isList = name === 'srcset' || name === 'imagesrcset';
    const found = isList ? listSources(shown) : urlSources(shown);
    if (found) sources.add(directive, ...found);
    else if (directive === 'form-action' && isFlashAction(attribute, whole)) sources.add(directive, "'self'");
    else if (directive === 'script-src' || directive === 'style-src') sources.askForNonce();
    else sources.add(directive, "'self'", 'https:', 'http:', ...(directive === 'img-src' ? ['data:'] : []));
  }
}

/** True for the URL of a flash message's action: it was found to be on this site when the message was made. */
function isFlashAction({ value = [] }: Attribute, { template }: Lowering): boolean {
  const [part] = value;
  if (template.name !== flashTemplate || value.length !== 1 || part?.kind !== 'substitution') return false;
  const { start, end } = part.expression;
  return /^\s*\w+\.action\.url\s*$/.test(template.tree.source.slice(start, end));
}

/** What the URL in an attribute is loaded as. */
function directivesOf(element: Element, name: string): string[] {
  switch (`${element.name} ${name}`) {
    case 'script src':
    case 'script href':
    case 'script xlink:href':
      return ['script-src'];
    case 'link href':
      return linkDirectives(element);
    case 'img srcset':
    case 'source srcset':
    case 'link imagesrcset':
    case 'use href':
    case 'use xlink:href':
      return ['img-src'];
    case 'audio src':
    case 'video src':
    case 'source src':
    case 'track src':
      return ['media-src'];
    case 'iframe src':
    case 'frame src':
      return ['frame-src'];
    case 'object data':
    case 'embed src':
      return ['object-src'];
    case 'form action':
    case 'button formaction':
    case 'input formaction':
      return ['form-action'];
    case 'base href':
      return ['base-uri'];
    case 'a ping':
    case 'area ping':
      return ['connect-src'];
    default:
      return attributeKind(ownerOf(element), name) === 'image-url' ? ['img-src'] : [];
  }
}

const preloaded: Readonly<Record<string, string>> = {
  script: 'script-src',
  style: 'style-src',
  image: 'img-src',
  font: 'font-src',
  fetch: 'connect-src',
  audio: 'media-src',
  video: 'media-src',
};

function linkDirectives(link: Element): string[] {
  const rel = spacedWords((fixedValue(attributeOf(link, 'rel')) ?? 'stylesheet').toLowerCase());
  const directives: string[] = [];
  if (rel.includes('stylesheet')) directives.push('style-src');
  if (rel.includes('modulepreload')) directives.push('script-src');
  if (rel.includes('icon') || rel.includes('apple-touch-icon')) directives.push('img-src');
  if (rel.includes('manifest')) directives.push('manifest-src');
  const as = fixedValue(attributeOf(link, 'as'))?.toLowerCase();
  if (rel.includes('preload') && as !== undefined && Object.hasOwn(preloaded, as)) directives.push(preloaded[as]!);
  return directives;
}

/** The sources of one URL; `undefined` where a value decides about them. */
function urlSources({ value }: Attribute): string[] | undefined {
  const [first] = value ?? [];
  if (!first) return ["'self'"];
  if (first.kind !== 'text') return undefined;
  const text = decodeHTMLAttribute(first.text);
  return value!.length === 1 || settlesHost(text) ? [sourceOf(text)].flat() : undefined;
}

/** The sources of image candidates. */
function listSources(attribute: Attribute): string[] | undefined {
  const text = fixedValue(attribute);
  if (text === undefined) return undefined;
  const candidates = decodeHTMLAttribute(text).split(/,\s+|,$/);
  return candidates.flatMap((candidate) => sourceOf(spacedWords(candidate)[0] ?? ''));
}

/** The source that a URL belongs to: this site, another origin, or a scheme. */
function sourceOf(href: string): string[] {
  const base = 'http://page.invalid/';
  const url = readURL(href, base);
  if (!url) return [];
  const { protocol, origin, host } = url;
  if (origin === 'http://page.invalid') return ["'self'"];
  if (protocol !== 'http:' && protocol !== 'https:')
    return protocol === 'data:' || protocol === 'blob:' ? [protocol] : [];
  return /^[\s\0-\x20]*[/\\]{2}/.test(href) ? [host] : [origin];
}

/** A `style` attribute: its hash where it is fixed. What a value makes of it cannot be known before. */
function noteStyle(attribute: Attribute, whole: Lowering): void {
  const text = fixedValue(withAssets({ name: '' } as Element, attribute, whole));
  if (text === undefined) {
    whole.sources.add('style-src-attr', "'unsafe-inline'");
    return;
  }
  const seen = decodeHTMLAttribute(text);
  whole.sources.add('style-src-attr', "'unsafe-hashes'", hashOf(seen));
  noteStyleText(seen, whole);
}

/** Images, fonts and further style sheets that a style names (CSS Values §4.5, CSS Cascade §2). */
function noteStyleText(css: string, whole: Lowering): void {
  for (const [, quoted = '', bare = ''] of css.matchAll(/url\([ \t\n]{0,100}(?:["']([^"']*)|([^"'()\s]*))/gi)) {
    whole.sources.add('img-src', ...sourceOf(quoted || bare));
    whole.sources.add('font-src', ...sourceOf(quoted || bare));
  }
  for (const [, href = ''] of css.matchAll(/@import[ \t\n]{1,100}(?:url\()?["']?([^"')\s;]*)/gi))
    whole.sources.add('style-src', ...sourceOf(href));
}
