/** Where the pages of a static site lead, and what of that is not there. */
import { selectAll } from 'css-select';
import type { AnyNode, Document, Element } from 'domhandler';
import { parse } from 'parse5';
import { adapter } from 'parse5-htmlparser2-tree-adapter';
import { decodedPath, decodedText } from '../decoded-path.ts';

/** What leads to a page or a file, by the element’s name. */
const leading: ReadonlyArray<[selector: string, attribute: string]> = [
  ['a, area, link', 'href'],
  ['img, script, source, track, video, audio, iframe, embed, input', 'src'],
  ['video', 'poster'],
  ['form', 'action'],
  ['button, input', 'formaction'],
  ['object', 'data'],
  ['use, image', 'href'],
];

export interface LostLink {
  /** The page that it is on. */
  page: string;
  url: string;
  /** Whether the page is there, and the part of it is not. */
  isFragment: boolean;
}

export interface SitePage {
  /** Its URL’s path, decoded: `/about`. */
  path: string;
  html: string;
}

/**
 * Links to what is neither a page nor a file of the site, and to parts that a page does not have. Other hosts are nobody’s business here.
 * @param isFile whether there is a file of that path
 */
export function lostLinks(pages: readonly SitePage[], isFile: (path: string) => boolean): LostLink[] {
  const documents = new Map(
    pages.map((page) => [withoutSlash(page.path), { page, tree: parse(page.html, { treeAdapter: adapter }) }]),
  );
  const found: LostLink[] = [];
  for (const { page, tree } of documents.values()) {
    const told = new Set<string>();
    for (const url of urlsIn(tree)) {
      // Servers of files show the page of a folder with a slash at the end.
      const target = targetOf(url, `${withoutSlash(page.path)}/`.replace('//', '/'));
      if (!target || told.has(url)) continue;
      told.add(url);
      const there = documents.get(withoutSlash(target.path));
      if (!there && !isFile(target.path)) found.push({ page: page.path, url, isFragment: false });
      else if (there && !hasPart(there.tree, target.fragment)) found.push({ page: page.path, url, isFragment: true });
    }
  }
  return found;
}

function urlsIn(tree: Document): string[] {
  return leading.flatMap(([selector, attribute]) =>
    selectAll<AnyNode, Element>(selector, tree).flatMap((element) => element.attribs[attribute] ?? []),
  );
}

/** `undefined` for what is elsewhere. */
function targetOf(url: string, page: string): { path: string; fragment: string } | undefined {
  const origin = 'http://localhost';
  if (!URL.canParse(url.trim(), origin + page)) return undefined;
  const { origin: to, pathname, hash } = new URL(url.trim(), origin + encodeURI(page));
  return to === origin ? { path: decodedPath(pathname), fragment: decodedText(hash.slice(1)) } : undefined;
}

function hasPart(tree: Document, fragment: string): boolean {
  // HTML §7.4.6.4: the top of the page is always there.
  if (fragment === '' || fragment.toLowerCase() === 'top') return true;
  return selectAll<AnyNode, Element>('[id], a[name]', tree).some(
    ({ attribs }) => attribs['id'] === fragment || attribs['name'] === fragment,
  );
}

function withoutSlash(path: string): string {
  return path === '/' ? path : path.replace(/\/$/, '');
}
