/** Addresses in attributes: which pass, and how values become parts of them (URL standard §4.4, HTML §4.6). */

import { RenderError } from '../diagnostics/index.ts';
import { type RefusalOfURL, renderDiagnostic } from './diagnostics.ts';
import type { Output } from './output.ts';
import { readURL } from './read-url.ts';
import { escapeText, plain } from './text.ts';
import { pathText, trustedAddress } from './trusted.ts';

/** Schemes that pass when the configuration names no more. */
export const defaultSchemes: ReadonlySet<string> = new Set(['http', 'https', 'mailto', 'tel', 'sms']);

/** What stands in the place of an address that does not pass. */
export const refusedURL = 'about:blank#refused-url';

/** What browsers strip before they read a URL: C0 controls and spaces at its start, tabs and line breaks anywhere. */
const leadingStripped = /^[\u0000-\u0020]+/;
const innerStripped = /[\t\n\r]+/g;
const schemeStart = /^([a-z][a-z0-9+.-]*):/i;

/**
 * The scheme of an address as a browser reads it, in lower case; `undefined` for relative addresses.
 */
export function schemeOf(address: string): string | undefined {
  if (!address.includes(':')) return undefined;
  return schemeStart.exec(seenByBrowser(address))?.[1]?.toLowerCase();
}

/** An address as browsers strip it before they read it. */
function seenByBrowser(address: string): string {
  return address.replace(leadingStripped, '').replace(innerStripped, '');
}

/**
 * A whole address, escaped for an attribute: relative or of an allowed scheme, else `about:blank#refused-url`.
 * @param address the assembled address, as text
 */
export function url(out: Output, address: string): string {
  return escapeText(checkedAddress(out, address));
}

/** As `url`, not escaped. */
export function checkedAddress(out: Output, address: string): string {
  return passesScheme(out, address) ? address : refused(out, address);
}

function passesScheme(out: Output, address: string): boolean {
  const scheme = schemeOf(address);
  return scheme === undefined || out.settings.schemes.has(scheme);
}

/** For images `data:image/…` passes too. */
function passesImage(out: Output, address: string): boolean {
  if (schemeOf(address) === 'data') return /^data:image\//i.test(seenByBrowser(address));
  return passesScheme(out, address);
}

/** One whole value as a checked address, not escaped; `undefined` where the attribute is left out. */
export function addressOf(out: Output, value: unknown): string | undefined {
  if (value === null || value === undefined || typeof value === 'boolean') return undefined;
  return trustedAddress(value) ?? pathAddress(out, value) ?? checkedAddress(out, plain(value));
}

/** Path segments as a whole address: empty ones at the start would name a host. */
function pathAddress(out: Output, value: unknown): string | undefined {
  const path = pathText(value);
  return path?.startsWith('//') ? refused(out, path, { kind: 'elsewhere' }) : path;
}

/** As `url`, for images. */
export function imageURL(out: Output, address: string): string {
  return escapeText(passesImage(out, address) ? address : refused(out, address));
}

/** The attribute `name=value` for one whole value; left out for `null`, `undefined` and booleans. `prefix` is ` name`. */
export function urlAttribute(out: Output, prefix: string, value: unknown): string {
  // Most addresses are plain text.
  if (typeof value === 'string') return `${prefix}="${url(out, value)}"`;
  return wholeURL(out, prefix, value, url);
}

/** As `urlAttribute`, for images. */
export function imageURLAttribute(out: Output, prefix: string, value: unknown): string {
  return wholeURL(out, prefix, value, imageURL);
}

function wholeURL(out: Output, prefix: string, value: unknown, pass: typeof url): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const known = trustedAddress(value) ?? pathAddress(out, value);
  return `${prefix}="${known === undefined ? pass(out, plain(value)) : escapeText(known)}"`;
}

/**
 * A value after some text of an address: percent-encoded for any place behind the scheme and origin. A trusted address is
 * a part as it is, and so are path segments that are encoded already.
 */
function urlPart(value: unknown): string {
  if (typeof value === 'string' ? plainPart.test(value) : Number.isSafeInteger(value)) return String(value);
  return trustedAddress(value) ?? pathText(value) ?? encodeURIComponent(plain(value).toWellFormed());
}

/** Nothing in it is encoded. */
const plainPart = /^[\w-]+$/;

/**
 * An address of fixed text and one value behind it, escaped for an attribute.
 * @param before the fixed text before the value, which settles the host and needs no escaping; likewise `after`
 */
export function onePartURL(out: Output, before: string, value: unknown, after: string): string {
  const part = urlPart(value);
  if (part.length < 3 && (part === '' || part.charCodeAt(0) === 0x2e) && leavesItsPlace([before, after], [part]))
    return refused(out, before + part + after, { kind: 'dot-segment' });
  return before + escapeText(part) + after;
}

/** A path segment that browsers resolve away (URL standard §4.1, “double-dot URL path segment”). */
const dotSegment = /^(?:\.|%2e){1,2}$/i;

/**
 * An address made of fixed text and values, for an attribute. Path segments that hold a value and come out as `.` or `..` would
 * lead elsewhere, so such an address is refused.
 * @param texts the fixed texts around the values; the first settles the host (`settlesHost`). There is one more of them than of
 *   `values`
 * @returns the assembled address, not escaped
 */
export function pathURL(out: Output, texts: readonly string[], values: readonly unknown[]): string {
  return assembled(out, texts, values.map(urlPart));
}

function assembled(out: Output, texts: readonly string[], parts: readonly string[]): string {
  let address = texts[0]!;
  let suspicious = false;
  for (let index = 0; index < parts.length; index++) {
    const part = parts[index]!;
    if (part.length < 3 && (part === '' || part.charCodeAt(0) === 0x2e)) suspicious = true;
    address += part + texts[index + 1];
  }
  return suspicious && leavesItsPlace(texts, parts) ? refused(out, address, { kind: 'dot-segment' }) : address;
}

/**
 * An address that begins with values, or with fixed text that does not settle the host: it is judged as a whole, as browsers read
 * it. Only the first value, fixed text and trusted values may say which host it leads to; other values may not.
 * @param lead the values that it begins with, printed as they are
 * @param texts the fixed texts behind them, around `values`
 * @param stays whether the first value may not lead to another host either, unless it is trusted
 * @returns the assembled address, not escaped
 */
export function judgedURL(
  out: Output,
  lead: readonly unknown[],
  texts: readonly string[],
  values: readonly unknown[],
  isImage = false,
  stays = false,
): string {
  const start = lead.map(plain).join('');
  const isTrusted = lead.length === 0 || lead.every((value) => trustedAddress(value) !== undefined);
  const address = assembled(out, [start + texts[0], ...texts.slice(1)], values.map(urlPart));
  if (address === refusedURL) return address;
  if (!isTrusted || lead.length === 0) {
    const passes = isImage ? passesImage(out, address) : passesScheme(out, address);
    if (!passes) return refused(out, address);
  }
  const isWhole = texts.length === 1 && texts[0] === '';
  if (isTrusted && isWhole) return address;
  // What may say the host, without the values that may not.
  const [first = '', ...others] = lead.map(
    (value, index) => trustedAddress(value) ?? (index === 0 && !stays ? plain(value) : ''),
  );
  if (!isTrusted && (isWhole ? lead.length === 1 && !stays : settlesHost(first))) return address;
  const harmless = values.map((value) => trustedAddress(value) ?? 'x');
  const expected = isTrusted
    ? [assembledText([start + texts[0], ...texts.slice(1)], harmless)]
    : [first, others.join('')];
  return expected.some((one) => leadsAlike(address, one)) ? address : refused(out, address, { kind: 'elsewhere' });
}

function assembledText(texts: readonly string[], parts: readonly string[]): string {
  return texts.map((text, index) => text + (parts[index] ?? '')).join('');
}

/** Whether two addresses lead to the same host, whatever page they stand on. One that browsers cannot read leads nowhere. */
function leadsAlike(one: string, other: string): boolean {
  const [read, expected] = [asInMarkup(one), asInMarkup(other)];
  return ['http://page.invalid/', 'https://page.invalid/'].every((base) => {
    const url = readURL(read, base);
    return url === undefined || hostOf(url) === hostOf(readURL(expected, base));
  });
}

/** An attribute’s text as the HTML parser hands it on (HTML §13.2.5.36, “U+0000 NULL”). */
export function asInMarkup(text: string): string {
  return text.replaceAll('\0', '\ufffd');
}

/** The host, of this page’s own scheme or another: both would be this site. */
function hostOf(url: URL | undefined): string | undefined {
  if (!url) return undefined;
  const { protocol, host } = url;
  return protocol === 'http:' || protocol === 'https:' ? host : `${protocol}//${host}`;
}

/**
 * Whether an address that begins with this text leads to a host that the text alone decides about, whatever follows: text with a
 * host and a path, a path with a first segment, a query, or a scheme without hosts.
 */
export function settlesHost(text: string): boolean {
  const seen = seenByBrowser(text);
  return /^(?:[?#]|[/\\][^/\\]|https?:[/\\]{2}[^/\\?#@]+[/\\?#]|[^:/\\?#]+[/?#]|(?:mailto|tel|sms):[^/\\])/i.test(seen);
}

/** Whether a segment that holds a value is `.` or `..`. */
function leavesItsPlace(texts: readonly string[], parts: readonly string[]): boolean {
  let segment = '';
  let holdsValue = false;
  const leaves = () => holdsValue && dotSegment.test(segment);
  for (let index = 0; index < texts.length; index++) {
    for (const character of texts[index]!) {
      if (character === '?' || character === '#') return leaves();
      if (character === '/' || character === '\\') {
        if (leaves()) return true;
        segment = '';
        holdsValue = false;
      } else {
        segment += character;
      }
    }
    if (index < parts.length) {
      segment += parts[index];
      holdsValue = true;
    }
  }
  return leaves();
}

/**
 * Image candidates, the address of each looked at (HTML §4.8.4.2.2, “parse a srcset attribute”). Escaped for an attribute.
 */
export function urlList(out: Output, list: string): string {
  const candidates: string[] = [];
  for (let at = startOfCandidate(list, 0); at < list.length; at = startOfCandidate(list, at)) {
    const start = at;
    while (at < list.length && !isSpace(list.charCodeAt(at))) at++;
    let end = at;
    while (list[end - 1] === ',') end--;
    let descriptors = '';
    // A candidate whose address ends with a comma has none.
    if (end === at) {
      at = endOfDescriptors(list, end);
      descriptors = list.slice(end, at).trimEnd();
    }
    candidates.push(imageURL(out, list.slice(start, end)) + escapeText(descriptors));
  }
  return candidates.join(', ');
}

/** Addresses with white space between them, as of `ping`, each looked at. Escaped for an attribute. */
export function urlTokens(out: Output, list: string): string {
  return list
    .split(/[\t\n\f\r ]/)
    .filter((token) => token !== '')
    .map((token) => url(out, token))
    .join(' ');
}

/** White space and commas stand before a candidate. */
function startOfCandidate(list: string, from: number): number {
  let at = from;
  while (at < list.length && (list[at] === ',' || isSpace(list.charCodeAt(at)))) at++;
  return at;
}

/** The comma that ends a candidate; those in parentheses end none. */
function endOfDescriptors(list: string, from: number): number {
  let inParentheses = false;
  for (let at = from; at < list.length; at++) {
    if (list[at] === '(') inParentheses = true;
    else if (list[at] === ')') inParentheses = false;
    else if (list[at] === ',' && !inParentheses) return at;
  }
  return list.length;
}

/** ASCII white space (Infra §4.6). */
function isSpace(code: number): boolean {
  return code === 0x20 || (code >= 0x09 && code <= 0x0d && code !== 0x0b);
}

/** An address behind `url=` of a refresh, where a quote at its start would hide how it goes on (HTML §4.2.5.3). */
export function unquotedURL(address: string): string {
  return address.replace(/['"]/g, (quote) => (quote === '"' ? '%22' : '%27'));
}

/** One address of several, as `judgedURL` gave it: what would end it there is encoded. Escaped for an attribute. */
export function urlListItem(address: string): string {
  if (schemeOf(address) !== 'data') return urlDescriptor(address);
  // A `data:` address needs its comma, but not at its end, where it would end the candidate.
  const joined = address.replace(/[\t\n\f\r ]/g, encodeURIComponent);
  let end = joined.length;
  while (joined[end - 1] === ',') end--;
  return escapeText(joined.slice(0, end) + '%2C'.repeat(joined.length - end));
}

/** A descriptor behind an address: what would end it is encoded. Escaped for an attribute. */
export function urlDescriptor(value: unknown): string {
  return escapeText(plain(value).replace(/[\s,]/g, encodeURIComponent));
}

/** The attribute for image candidates: text, or an array of them. */
export function urlListAttribute(out: Output, prefix: string, value: unknown): string {
  return wholeList(prefix, value, ', ', (list) => urlList(out, list));
}

/** The attribute for addresses with white space between them: text, or an array of them. */
export function urlTokensAttribute(out: Output, prefix: string, value: unknown): string {
  return wholeList(prefix, value, ' ', (list) => urlTokens(out, list));
}

function wholeList(prefix: string, value: unknown, between: string, pass: (list: string) => string): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const items = Array.isArray(value) ? value.filter((item) => item || item === 0).map(plain) : [plain(value)];
  return `${prefix}="${pass(items.join(between))}"`;
}

/** The attribute for the address of code, whose value is not fixed: only a trusted address passes. */
export function codeURLAttribute(prefix: string, what: string, value: unknown): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const trusted = trustedAddress(value);
  if (trusted === undefined) throw new RenderError(renderDiagnostic('refused-code-url', { what }));
  return `${prefix}="${escapeText(trusted)}"`;
}

function refused(out: Output, url: string, why?: RefusalOfURL): string {
  out.settings.note(
    renderDiagnostic('refused-url', { url, why: why ?? { kind: 'scheme', allowed: [...out.settings.schemes] } }),
  );
  return refusedURL;
}
