/** Helpers that make URLs. */

import { RenderError } from '../../diagnostics/index.ts';
import { encodedPath, mountedURL, pathText, type URLPath } from '../../kernel/index.ts';
import { renderDiagnostic } from '../diagnostics.ts';
import { plain } from '../text.ts';

/**
 * Several path segments, each percent-encoded, with slashes between them: for a place where one value is many segments.
 * @throws {RenderError} for a segment that is `.` or `..`, which would lead elsewhere
 */
export function urlPath(...segments: unknown[]): URLPath {
  const parts = segments.flat().map(plain);
  const climbing = parts.find((part) => part === '.' || part === '..');
  if (climbing !== undefined) throw new RenderError(renderDiagnostic('refused-path-segment', { segment: climbing }));
  return encodedPath(parts.map((part) => encodeURIComponent(part.toWellFormed())).join('/'));
}

/**
 * A URL of the site: a path from its root, and segments behind it, each percent-encoded.
 * @param base where the site is mounted
 * @throws {RenderError} for a segment that is `.` or `..`
 */
export function pathTo(base: string, path: string, segments: readonly unknown[]): string {
  const start = mountedURL(path, base);
  if (segments.length === 0) return start;
  return `${start.replace(/\/$/, '')}/${pathText(urlPath(...segments))}`;
}

/**
 * A URL with some of its query changed: `null`, `undefined` and '' take a name away, an array gives it several values,
 * what is not named stays.
 * @param url a `URL`, of which path, query and fragment are taken, or text; only text with a scheme keeps its origin
 */
export function withQuery(url: URL | string, changes: Record<string, unknown>): string {
  const text = url instanceof URL ? url.pathname + url.search + url.hash : plain(url);
  const [, path = '', search = '', hash = ''] = /^([^?#]*)(\?[^#]*)?(#.*)?$/s.exec(text) ?? [];
  const kept = new URLSearchParams(search);
  for (const [name, value] of Object.entries(changes)) {
    kept.delete(name);
    for (const item of Array.isArray(value) ? value : [value]) {
      if (item !== null && item !== undefined && item !== '' && item !== false)
        kept.append(name, item === true ? 'on' : plain(item));
    }
  }
  return `${ownPath(path)}${kept.size > 0 ? `?${kept}` : ''}${hash}`;
}

/** A path that begins with two slashes would name a host (URL §4.3, “scheme-relative-special-URL string”). */
function ownPath(path: string): string {
  const seen = path.replace(/^[\u0000-\u0020]+/, '').replace(/[\t\n\r]/g, '');
  return /^[/\\]{2}/.test(seen) ? `/.${seen.replaceAll('\\', '/')}` : path;
}
