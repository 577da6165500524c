/** Addresses in attributes: which pass, and how values become parts of them (URL standard §4.4, HTML §4.6). */
import { notices } from './notices.ts';
import type { Output } from './output.ts';
import { renderErrors } from './render-error.ts';
import { escapeText, plain } from './text.ts';
import { trustedAddress } from './trusted.ts';

/** Schemes that pass when the configuration names no more. */
export const defaultSchemes: ReadonlySet<string> = new Set(['http', 'https', 'mailto', 'tel', 'sms']);

/** What stands in the place of an address that does not pass. */
export const blockedURL = 'about:blank#blocked';

/** What browsers strip before they read a URL: C0 controls and spaces at its start, tabs and line breaks anywhere. */
const leadingStripped = /^[\u0000-\u0020]+/;
const innerStripped = /[\t\n\r]+/g;
const schemeStart = /^([a-z][a-z0-9+.-]*):/i;

/**
 * The scheme of an address as a browser reads it, in lower case; `undefined` for relative addresses.
 */
export function schemeOf(address: string): string | undefined {
  if (!address.includes(':')) return undefined;
  const seen = address.replace(leadingStripped, '').replace(innerStripped, '');
  return schemeStart.exec(seen)?.[1]?.toLowerCase();
}

/**
 * A whole address, escaped for an attribute: relative or of an allowed scheme, else `about:blank#blocked`.
 * @param address the assembled address, as text
 */
export function url(out: Output, address: string): string {
  return escapeText(checkedAddress(out, address));
}

/** As `url`, not escaped. */
export function checkedAddress(out: Output, address: string): string {
  const scheme = schemeOf(address);
  return scheme === undefined || out.settings.schemes.has(scheme) ? address : blocked(out, address);
}

/** One whole value as a checked address, not escaped; `undefined` where the attribute is left out. */
export function addressOf(out: Output, value: unknown): string | undefined {
  if (value === null || value === undefined || typeof value === 'boolean') return undefined;
  return trustedAddress(value) ?? checkedAddress(out, plain(value));
}

/** As `url`, for images: `data:image/…` passes too. */
export function imageURL(out: Output, address: string): string {
  if (schemeOf(address) === 'data' && /^data:image\//i.test(address.trimStart())) return escapeText(address);
  return url(out, address);
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
  const trusted = trustedAddress(value);
  return `${prefix}="${trusted === undefined ? pass(out, plain(value)) : escapeText(trusted)}"`;
}

/**
 * A value after some text of an address: percent-encoded for any place behind the scheme and origin. A trusted address is
 * a part as it is.
 */
export function urlPart(value: unknown): string {
  if (typeof value === 'string' ? plainPart.test(value) : Number.isSafeInteger(value)) return String(value);
  return trustedAddress(value) ?? encodeURIComponent(plain(value).toWellFormed());
}

/** Nothing in it is encoded. */
const plainPart = /^[\w-]+$/;

/**
 * An address of fixed text and one value behind it, escaped for an attribute.
 * @param before the fixed text before the value, which needs no escaping; likewise `after`
 */
export function onePartURL(out: Output, before: string, value: unknown, after: string): string {
  const part = urlPart(value);
  if (part.length < 3 && (part === '' || part.charCodeAt(0) === 0x2e) && leavesItsPlace([before, after], [part]))
    return blocked(out, before + part + after);
  return before + escapeText(part) + after;
}

/** A path segment that browsers resolve away (URL standard §4.1, “double-dot URL path segment”). */
const dotSegment = /^(?:\.|%2e){1,2}$/i;

/**
 * An address made of fixed text and encoded values, for an attribute. Path segments that hold a value and come out as `.` or
 * `..` would lead elsewhere, so such an address is blocked.
 * @param texts the fixed texts around the values; there is one more of them than of `parts`
 * @param parts the values, encoded by `urlPart`
 * @returns the assembled address, not escaped
 */
export function pathURL(out: Output, texts: readonly string[], parts: readonly string[]): string {
  let address = texts[0]!;
  let suspicious = false;
  for (let index = 0; index < parts.length; index++) {
    const part = parts[index]!;
    if (part.length < 3 && (part === '' || part.charCodeAt(0) === 0x2e)) suspicious = true;
    address += part + texts[index + 1];
  }
  return suspicious && leavesItsPlace(texts, parts) ? blocked(out, address) : address;
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
 * Several addresses in one attribute, each looked at: image candidates (HTML §4.8.4.2, `srcset`) or addresses separated by
 * white space (`ping`). Escaped for an attribute.
 */
export function urlList(out: Output, list: string): string {
  const pieces: string[] = [];
  const candidate = /[\s,]*([^\s]+)((?:[^,(]|\([^)]*\)?)*)/g;
  for (let found = candidate.exec(list); found; found = candidate.exec(list)) {
    const written = found[1]!;
    const trimmed = written.replace(/,+$/, '');
    // A candidate whose address ends with a comma has no descriptors (step 8 of “parse a srcset attribute”).
    if (trimmed !== written) candidate.lastIndex = found.index + found[0].length - found[2]!.length;
    const descriptors = trimmed === written ? found[2]!.trimEnd() : '';
    pieces.push(imageURL(out, trimmed) + escapeText(descriptors));
  }
  return pieces.join(list.includes(',') ? ', ' : ' ');
}

/** One address in a list of several: what would end it there is encoded. */
export function urlListItem(value: unknown): string {
  return trustedAddress(value) ?? plain(value).replace(/[\s,]/g, encodeURIComponent);
}

/** The attribute for a whole list of addresses: text, or an array of candidates. */
export function urlListAttribute(out: Output, prefix: string, value: unknown): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const list = Array.isArray(value)
    ? value
        .filter((item) => item || item === 0)
        .map(plain)
        .join(', ')
    : plain(value);
  return `${prefix}="${urlList(out, list)}"`;
}

/** The attribute for the address of code, whose value is not fixed: only a trusted address passes. */
export function codeURLAttribute(prefix: string, what: string, value: unknown): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const trusted = trustedAddress(value);
  if (trusted === undefined) throw renderErrors.untrusted(what);
  return `${prefix}="${escapeText(trusted)}"`;
}

function blocked(out: Output, address: string): string {
  out.settings.notice(notices.blockedURL(address, out.settings.schemes));
  return blockedURL;
}
