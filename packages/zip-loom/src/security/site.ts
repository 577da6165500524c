/** Where a site is for its browsers: its origin (RFC 6454), also behind a proxy (RFC 7239). */

import type { IncomingRequest } from '../http/index.ts';
import { readURL } from '../kernel/index.ts';

/**
 * An origin as browsers write it: scheme, host and port, in lower case, without a default port and without a slash.
 * @returns `undefined` for anything else than a URL of `http` or `https` without a path
 */
export function normalOrigin(text: string): string | undefined {
  const url = readURL(text);
  if (!url) return undefined;
  const { protocol, origin, pathname, search, hash, username, password } = url;
  const isBare = pathname === '/' && search === '' && hash === '' && username === '' && password === '';
  return isBare && (protocol === 'http:' || protocol === 'https:') ? origin : undefined;
}

/** What an origin is taken from, where the request itself does not tell. */
export interface SiteSettings {
  /** As `normalOrigin` gives it. */
  origin: string | undefined;
  /** How many proxies in front of this program say where a request came to; 0 where none is trusted. */
  proxies: number;
}

/** The origin that the browser of a request sees. */
export function publicOrigin(request: IncomingRequest, { origin, proxies }: SiteSettings): string {
  return origin ?? (proxies > 0 ? forwardedOrigin(request, proxies) : undefined) ?? request.origin;
}

/** The URL of a request as its browser sees it. @param origin as `publicOrigin` gives it */
export function publicURL(request: IncomingRequest, origin: string): URL {
  const url = new URL(request.url);
  if (origin === url.origin) return url;
  // Set part by part: a path of two slashes, resolved against an origin, would name a host.
  const href = new URL(origin);
  href.pathname = url.pathname;
  href.search = url.search;
  return href;
}

/**
 * The address of the browser, as far as it is known: from the connection under Node, or from the outermost proxy that is trusted
 * (RFC 7239 §5.2); '' if the server does not say it.
 */
export function clientAddress(request: IncomingRequest, { proxies }: Pick<SiteSettings, 'proxies'>): string {
  if (proxies > 0) {
    const nth = <Item>(list: readonly Item[]) => list[Math.max(0, list.length - proxies)];
    const said =
      nth(elementsOf(request.header('forwarded')))?.get('for') ?? nth(listed(request.header('x-forwarded-for')));
    if (said !== undefined) return said;
  }
  const { req } = request.server as { req?: { socket?: { remoteAddress?: string } } };
  return req?.socket?.remoteAddress ?? '';
}

/** Whether a proxy or a browser says that this site is reached over TLS, although the request was not. */
export function comesOverTLS(request: IncomingRequest): boolean {
  if (request.origin.startsWith('https:')) return false;
  return (
    request.header('origin') === request.origin.replace('http:', 'https:') ||
    listed(request.header('x-forwarded-proto')).includes('https') ||
    elementsOf(request.header('forwarded')).some((element) => element.get('proto') === 'https')
  );
}

/** The origin that the outermost trusted proxy was asked for; what it does not say is as in the request. */
function forwardedOrigin(request: IncomingRequest, proxies: number): string | undefined {
  const nth = <Item>(list: readonly Item[]) => list[Math.max(0, list.length - proxies)];
  const forwarded = nth(elementsOf(request.header('forwarded')));
  const proto = forwarded?.get('proto') ?? nth(listed(request.header('x-forwarded-proto')));
  const host = forwarded?.get('host') ?? nth(listed(request.header('x-forwarded-host')));
  const [ownScheme, ownHost] = request.origin.split('://');
  return normalOrigin(`${proto?.toLowerCase() ?? ownScheme}://${host ?? ownHost}`);
}

const none: never[] = [];

function listed(header: string | undefined): string[] {
  if (header === undefined) return none;
  return header
    .split(',')
    .map((item) => item.trim().toLowerCase())
    .filter((item) => item !== '');
}

/** RFC 7239 §4: elements with commas between them, each of pairs with semicolons between them; values may be quoted. */
function elementsOf(header: string | undefined): Array<Map<string, string>> {
  if (header === undefined) return none;
  const elements: Array<Map<string, string>> = [];
  let element = new Map<string, string>();
  let name = '';
  let value = '';
  let inValue = false;
  let quoted = false;
  const endPair = () => {
    if (inValue) element.set(name.trim().toLowerCase(), value.trim());
    name = value = '';
    inValue = false;
  };
  for (let at = 0; at < header.length; at++) {
    const character = header[at]!;
    if (quoted && character === '\\') value += header[++at] ?? '';
    else if (quoted && character !== '"') value += character;
    else if (character === '"' && inValue) quoted = !quoted;
    else if (character === '=' && !inValue) inValue = true;
    else if (character === ';') endPair();
    else if (character === ',') {
      endPair();
      elements.push(element);
      element = new Map();
    } else if (inValue) value += character;
    else name += character;
  }
  endPair();
  elements.push(element);
  return elements.filter((one) => one.size > 0);
}
