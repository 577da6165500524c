/** Relative URLs that name files of the project. */

/** What a relative URL names. */
export interface NamedFile {
  /** Below the folder of assets, decoded, without `./` and `../` at its start. */
  path: string;
  /** A query and a fragment, as written. */
  rest: string;
}

/**
 * The file that a relative URL names, or `undefined` for any other URL. However deep the page is, `../` leads to
 * the folder of assets and no further.
 */
export function assetPath(href: string): NamedFile | undefined {
  const trimmed = href.trim();
  // With a scheme, a host, from the root, or only a query or a fragment, it is no file of ours (URL §4.2).
  if (trimmed === '' || /^(?:[a-z][a-z0-9+.-]*:|[/\\?#])/i.test(trimmed)) return undefined;
  const [, path = '', rest = ''] = /^([^?#]*)(.*)$/s.exec(trimmed) ?? [];
  try {
    return { path: decodeURIComponent(path).replace(/^(?:\.{0,2}\/)+/, ''), rest };
  } catch {
    return undefined;
  }
}
