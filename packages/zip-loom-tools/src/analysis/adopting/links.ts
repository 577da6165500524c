/** Links from page to page, and files that pages name: as they have to be at the addresses of templates. */
import { elementsOf } from 'zip-loom/internal/language';
import { type Edit, edited } from '../edit.ts';
import { documentTree } from './sheets.ts';

/** Attributes that hold one URL. */
const attributes = new Set(['href', 'src', 'action', 'formaction', 'poster', 'data-src']);

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
  const counts = { links: 0, files: 0 };
  const edits: Edit[] = [];
  for (const element of elementsOf(documentTree(source).children))
    for (const item of element.items) {
      const [only, ...more] = (item.kind === 'attribute' && attributes.has(item.name) && item.value) || [];
      if (only?.kind !== 'text' || more.length > 0) continue;
      const value = source.slice(only.start, only.end);
      const changed = address(value, path, pages, isFile);
      if (changed === undefined || changed.url === value) continue;
      counts[changed.isPage ? 'links' : 'files'] += 1;
      edits.push({ start: only.start, end: only.end, text: changed.url });
    }
  return { source: edited(source, edits), ...counts };
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
