/** Links from page to page, and files that pages name: as they have to be at the addresses of templates. */

/** Attributes that hold one URL. */
const attributes =
  /(<[a-z][^\s>]*\s(?:[^<>"']|"[^"]*"|'[^']*')*?\b)(href|src|action|poster|data-src)(\s*=\s*)("[^"]*"|'[^']*'|[^\s"'>]+)/gi;

export interface Relinked {
  source: string;
  /** How many links to pages were changed, and how many files are named from the root. */
  links: number;
  files: number;
}

/**
 * @param path the page’s path without the ending
 * @param pages the paths of all pages
 * @param isFile whether a path below the folder is a file
 */
export function relinked(
  source: string,
  path: string,
  pages: ReadonlySet<string>,
  isFile: (path: string) => boolean,
): Relinked {
  const found: Relinked = { source, links: 0, files: 0 };
  let text = source;
  // An element may have several; each round changes the first that is left of each.
  for (let round = 0; round < 4; round++) {
    const next = text.replace(attributes, (whole, before: string, name: string, equals: string, given: string) => {
      const quote = /^["']/.exec(given)?.[0] ?? '';
      const value = quote === '' ? given : given.slice(1, -1);
      const changed = address(value, path, pages, isFile);
      if (changed === undefined || changed.url === value) return whole;
      if (changed.isPage) found.links += 1;
      else found.files += 1;
      return `${before}${name}${equals}${quote}${changed.url}${quote}`;
    });
    if (next === text) break;
    text = next;
  }
  found.source = text;
  return found;
}

/** The address of a page of this path. */
function addressOf(path: string): string {
  return `/${path.replace(/(?:^|\/)index$/, '')}`;
}

function address(
  value: string,
  path: string,
  pages: ReadonlySet<string>,
  isFile: (path: string) => boolean,
): { url: string; isPage: boolean } | undefined {
  if (value === '' || /^(?:[a-z][a-z0-9+.-]*:|\/|#|\?)/i.test(value.trim())) return undefined;
  const [, file = '', rest = ''] = /^([^?#]*)(.*)$/s.exec(value)!;
  let target: string;
  try {
    target = decodeURIComponent(new URL(file, `http://x/${path}`).pathname.slice(1));
  } catch {
    return undefined;
  }
  const page = target.replace(/\.html?$/i, '');
  if (page !== target && pages.has(page)) return { url: addressOf(page) + rest, isPage: true };
  return isFile(target)
    ? { url: `/${new URL(file, `http://x/${path}`).pathname.slice(1)}${rest}`, isPage: false }
    : undefined;
}
