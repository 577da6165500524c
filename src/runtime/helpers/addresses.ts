/** Helpers that make addresses. */

import { renderErrors } from '../render-error.ts';
import { plain } from '../text.ts';
import { type TrustedURL, trustedURL } from '../trusted.ts';

/**
 * Several path segments, each percent-encoded, with slashes between them: for a place where one value is many segments.
 * @throws {RenderError} for a segment that is `.` or `..`, which would lead elsewhere
 */
export function urlPath(...segments: unknown[]): TrustedURL {
  const parts = segments.flat().map(plain);
  const climbing = parts.find((part) => part === '.' || part === '..');
  if (climbing !== undefined) throw renderErrors.climbingPath(climbing);
  return trustedURL(parts.map((part) => encodeURIComponent(part.toWellFormed())).join('/'));
}

/**
 * An address with some of its query changed: `null`, `undefined` and '' take a name away, an array gives it several values,
 * what is not named stays. The result has no origin unless `url` is text with one.
 */
export function query(url: URL | string, changes: Record<string, unknown>): string {
  const text = String(url);
  const isWhole = typeof url === 'string' && /^[a-z][a-z0-9+.-]*:/i.test(url);
  const parsed = new URL(text, 'http://base.invalid');
  for (const [name, value] of Object.entries(changes)) {
    parsed.searchParams.delete(name);
    for (const item of Array.isArray(value) ? value : [value]) {
      if (item !== null && item !== undefined && item !== '' && item !== false)
        parsed.searchParams.append(name, item === true ? 'on' : plain(item));
    }
  }
  return isWhole ? parsed.href : parsed.pathname + parsed.search + parsed.hash;
}
