/** Attributes with several URLs: image candidates (HTML §4.8.4.2) and URLs with whitespace between them. */
import { escapeText, type Output, schemeOf } from '../kernel/index.ts';
import { plain } from './text.ts';
import { imageURL, url } from './urls.ts';

/** The attribute for image candidates: text, or an array of them. */
export function urlListAttribute(out: Output, prefix: string, value: unknown): string {
  return wholeList(prefix, value, ', ', (list) => urlList(out, list));
}

/** The attribute for URLs with whitespace between them: text, or an array of them. */
export function urlTokensAttribute(out: Output, prefix: string, value: unknown): string {
  return wholeList(prefix, value, ' ', (list) => urlTokens(out, list));
}

function wholeList(prefix: string, value: unknown, between: string, pass: (list: string) => string): string {
  if (value === null || value === undefined || typeof value === 'boolean') return '';
  const items = Array.isArray(value) ? value.filter((item) => item || item === 0).map(plain) : [plain(value)];
  return `${prefix}="${pass(items.join(between))}"`;
}

/**
 * Image candidates, the URL of each looked at (HTML §4.8.4.2.2, “parse a srcset attribute”). Escaped for an attribute.
 */
function urlList(out: Output, list: string): string {
  const candidates: string[] = [];
  for (let at = startOfCandidate(list, 0); at < list.length; at = startOfCandidate(list, at)) {
    const start = at;
    while (at < list.length && !isSpace(list.charCodeAt(at))) at++;
    let end = at;
    while (list[end - 1] === ',') end--;
    let descriptors = '';
    // A candidate whose URL ends with a comma has none.
    if (end === at) {
      at = endOfDescriptors(list, end);
      descriptors = list.slice(end, at).trimEnd();
    }
    candidates.push(imageURL(out, list.slice(start, end)) + escapeText(descriptors));
  }
  return candidates.join(', ');
}

/** URLs with whitespace between them, as of `ping`, each looked at. Escaped for an attribute. */
function urlTokens(out: Output, list: string): string {
  return list
    .split(/[\t\n\f\r ]/)
    .filter((token) => token !== '')
    .map((token) => url(out, token))
    .join(' ');
}

/** Whitespace and commas are before a candidate. */
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

/** ASCII whitespace (Infra §4.6). */
function isSpace(code: number): boolean {
  return code === 0x20 || (code >= 0x09 && code <= 0x0d && code !== 0x0b);
}

/** One URL of several, as `judgedURL` gave it: what would end it there is encoded. Escaped for an attribute. */
export function urlListItem(href: string): string {
  if (schemeOf(href) !== 'data') return urlDescriptor(href);
  // A `data:` URL needs its comma, but not at its end, where it would end the candidate.
  const joined = href.replace(/[\t\n\f\r ]/g, encodeURIComponent);
  let end = joined.length;
  while (joined[end - 1] === ',') end--;
  return escapeText(joined.slice(0, end) + '%2C'.repeat(joined.length - end));
}

/** A descriptor after a URL: what would end it is encoded. Escaped for an attribute. */
export function urlDescriptor(value: unknown): string {
  return escapeText(plain(value).replace(/[\s,]/g, encodeURIComponent));
}
