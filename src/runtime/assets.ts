/** Addresses of the project’s own files. */

import { RenderError } from '../diagnostics/index.ts';
import { renderDiagnostic } from './diagnostics.ts';

/** What a relative address names. */
export interface NamedFile {
  /** Below the folder of assets, decoded, without `./` and `../` at its start. */
  path: string;
  /** A query and a fragment, as written. */
  rest: string;
}

/**
 * The file that a relative address names, or `undefined` for any other address. However deep the page stands, `../` leads to
 * the folder of assets and no further.
 */
export function assetPath(address: string): NamedFile | undefined {
  const trimmed = address.trim();
  // With a scheme, a host, from the root, or only a query or a fragment, it is no file of ours (URL §4.2).
  if (trimmed === '' || /^(?:[a-z][a-z0-9+.-]*:|[/\\?#])/i.test(trimmed)) return undefined;
  const [, path = '', rest = ''] = /^([^?#]*)(.*)$/s.exec(trimmed) ?? [];
  try {
    return { path: decodeURIComponent(path).replace(/^(?:\.{0,2}\/)+/, ''), rest };
  } catch {
    return undefined;
  }
}

/**
 * The helper `asset(path)`.
 * @param files paths → addresses; `undefined` where the project has none
 * @param missing told of a path that is not there
 */
export function assetHelper(
  files: ReadonlyMap<string, string> | undefined,
  missing: (error: RenderError) => void,
): (path: string) => string {
  return (path) => {
    const named = assetPath(String(path));
    if (!named) return String(path);
    const found = files?.get(named.path);
    if (found === undefined && files) missing(new RenderError(renderDiagnostic('missing-asset', { path: named.path })));
    return (found ?? `/${named.path}`) + named.rest;
  };
}
