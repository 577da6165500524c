/** URLs as browsers read them (URL standard §4.4, HTML §13.2.5.36): what their text alone decides. */

/** Schemes that pass when the configuration names no more. */
export const defaultSchemes: ReadonlySet<string> = new Set(['http', 'https', 'mailto', 'tel', 'sms']);

/** What is in place of a URL that does not pass. */
export const refusedURL = 'about:blank#refused-url';

/**
 * A URL as the URL standard’s parser reads it, or `undefined` where it cannot be read. Not by `URL.canParse`, which some
 * versions of Node answer wrongly for text beyond ASCII once the call is compiled.
 */
export function readURL(href: string, base?: string | URL): URL | undefined {
  try {
    return new URL(href, base);
  } catch {
    return undefined;
  }
}

/**
 * Whether text is a path, perhaps with a query, that the URL standard’s parser leaves as it is: it begins with one slash and has
 * no dots at the start of a segment, nothing that is encoded, and no fragment. Most are, and need not be taken apart.
 */
export function isPlainPath(text: string): boolean {
  return plainPath.test(text);
}

const segment = /(?!\.|%2e)(?:[\w!$&()*+,;=:@~.-]|%[\da-f]{2})+/.source;
const plainPath = new RegExp(`^/(?:${segment}(?:/${segment})*/?)?(?:\\?[\\w!$&()*+,;=:@~/.?%-]*)?$`, 'i');

/**
 * The scheme of a URL as a browser reads it, in lower case; `undefined` for relative URLs.
 */
export function schemeOf(href: string): string | undefined {
  if (!href.includes(':')) return undefined;
  return schemeStart.exec(seenByBrowser(href))?.[1]?.toLowerCase();
}

/**
 * Whether a URL that begins with this text leads to a host that the text alone decides about, whatever follows: text with a
 * host and a path, a path with a first segment, a query, or a scheme without hosts.
 */
export function settlesHost(text: string): boolean {
  const seen = seenByBrowser(text);
  return /^(?:[?#]|[/\\][^/\\]|https?:[/\\]{2}[^/\\?#@]+[/\\?#]|[^:/\\?#]+[/?#]|(?:mailto|tel|sms):[^/\\])/i.test(seen);
}

/**
 * Whether two URLs lead to the same host, whatever page they are on. One that cannot be read here may still be read by a
 * browser: Chromium takes hosts that the URL standard forbids (§3.5, “forbidden host code point”).
 */
export function leadsAlike(one: string, other: string): boolean {
  const [read, expected] = [asInMarkup(one), asInMarkup(other)];
  return ['http://page.invalid/', 'https://page.invalid/'].every((base) => {
    return hostOf(readURL(read, base)) === hostOf(readURL(expected, base));
  });
}

/** The host, of this page’s own scheme or another: both would be this site. */
function hostOf(url: URL | undefined): string | undefined {
  if (!url) return undefined;
  const { protocol, host } = url;
  return protocol === 'http:' || protocol === 'https:' ? host : `${protocol}//${host}`;
}

/** An attribute’s text as the HTML parser hands it on (HTML §13.2.5.36, “U+0000 NULL”). */
export function asInMarkup(text: string): string {
  return text.replaceAll('\0', '\ufffd');
}

/** What browsers strip before they read a URL: C0 controls and spaces at its start, tabs and line breaks anywhere. */
const leadingStripped = /^[\u0000-\u0020]+/;
const innerStripped = /[\t\n\r]+/g;
const schemeStart = /^([a-z][a-z0-9+.-]*):/i;

/** A URL as browsers strip it before they read it. */
export function seenByBrowser(href: string): string {
  return href.replace(leadingStripped, '').replace(innerStripped, '');
}
