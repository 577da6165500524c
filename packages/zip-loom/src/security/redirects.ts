/** URLs to go to next: on this site, unless said otherwise. */

import { isPlainPath, readURL } from '../kernel/index.ts';

/**
 * The URL as it is written in `Location`, or `undefined` where it leads elsewhere, in any of the ways in which browsers
 * read URLs (URL standard §4.4).
 * @param base gives the URL of the request
 */
export function localURL(to: string, base: () => URL): string | undefined {
  // Read by a browser, such a path is what it is.
  if (isPlainPath(to)) return to;
  return resolvedLocally(to, base());
}

function resolvedLocally(to: string, base: URL): string | undefined {
  if (/[\\\u0000-\u001f\u007f]/.test(to) || to.trim().startsWith('//')) return undefined;
  const target = readURL(to, base);
  if (!target) return undefined;
  // A “blob:” URL has the origin of the page that made it.
  if (target.protocol !== base.protocol) return undefined;
  // `/..//host` normalises to a path that, written alone, names another host.
  if (target.origin !== base.origin || target.pathname.startsWith('//')) return undefined;
  if (target.username || target.password) return undefined;
  return target.pathname + target.search + target.hash;
}

/** The URL on any site, or `undefined` for anything that is no page on the web. */
export function externalURL(to: string, base: URL): string | undefined {
  const target = readURL(to, base);
  return target?.protocol === 'https:' || target?.protocol === 'http:' ? target.href : undefined;
}
