/** What the browser has: the server’s list at the end of the page, and the regions that are the server’s. */
import {
  digestsAttribute,
  keptAttribute,
  markAttribute,
  pageAttribute,
  readDigests,
  regionAttribute,
} from '../protocol/index.ts';

/** The page as the server described it. */
export interface PageState {
  /** Its template and layouts; '' where no server of ours made it. */
  name: string;
  /** Proves a region to be the server’s. */
  mark: string;
  /** Digests by region. A region without one is sent whole. */
  digests: Map<string, string>;
}

/**
 * Reads the list: where no visitor can write, in the head, or the last one at the top of the page, for the server writes it at the
 * very end, after all that visitors wrote.
 */
export function readList(page: Document): PageState | undefined {
  const [inHead, inBody] = ['head', 'body'].map((place) =>
    [...page.querySelectorAll<HTMLTemplateElement>(`${place} > template[${pageAttribute}]`)].at(-1),
  );
  const list = inHead ?? inBody;
  if (!list) return undefined;
  return {
    name: list.getAttribute(pageAttribute) ?? '',
    mark: list.getAttribute(markAttribute) ?? '',
    digests: readDigests(list.getAttribute(digestsAttribute) ?? ''),
  };
}

/** The page’s regions by name: those that bear the server’s mark, which no visitor knows. The first of a name counts. */
export function regionsOf(root: ParentNode, mark: string): Map<string, HTMLElement> {
  return mark === '' ? new Map() : byName(root, (element) => element.getAttribute(markAttribute) === mark);
}

/** Regions of a page whose handler knows nothing of us, and so marks none. */
export function unmarkedRegions(root: ParentNode): Map<string, HTMLElement> {
  return byName(root, () => true);
}

function byName(root: ParentNode, counts: (element: Element) => boolean): Map<string, HTMLElement> {
  const regions = new Map<string, HTMLElement>();
  for (const element of root.querySelectorAll<HTMLElement>(`[${regionAttribute}]`)) {
    const name = element.getAttribute(regionAttribute) ?? '';
    if (!regions.has(name) && counts(element)) regions.set(name, element);
  }
  return regions;
}

/** Makes the regions of an answer those of the page. Everything else that pretends to be one is one no more. */
export function adopt(content: ParentNode, isRegion: (element: Element) => boolean, pageMark: string): void {
  for (const element of content.querySelectorAll(`[${regionAttribute}]`)) {
    if (element.hasAttribute(keptAttribute)) continue;
    if (!isRegion(element)) element.removeAttribute(regionAttribute);
    else if (pageMark !== '') element.setAttribute(markAttribute, pageMark);
  }
}

/** Whether an element of an answer bears the answer’s mark. */
export function isMarked(mark: string): (element: Element) => boolean {
  return (element) => mark !== '' && element.getAttribute(markAttribute) === mark;
}
