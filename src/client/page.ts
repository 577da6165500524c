/** What the browser has: the server’s list at the end of the page, and the regions that are the server’s. */

/** The page as the server described it. */
export interface PageState {
  /** Its template and layouts; '' where no server of ours made it. */
  name: string;
  /** Proves a region to be the server’s. */
  mark: string;
  /** Digests by region. A region without one is sent whole. */
  has: Map<string, string>;
}

/** Reads the list: the last one, for the server writes it at the very end, behind all that visitors wrote. */
export function readList(root: ParentNode): PageState | undefined {
  const list = [...root.querySelectorAll<HTMLTemplateElement>('template[data-page]')].at(-1);
  if (!list) return undefined;
  return {
    name: list.dataset['page'] ?? '',
    mark: list.dataset['mark'] ?? '',
    has: readDigests(list.dataset['has'] ?? ''),
  };
}

/** `page=Zk3f9x0q, berths=…` */
export function writeDigests(has: ReadonlyMap<string, string>): string {
  return [...has].map(([name, digest]) => `${name}=${digest}`).join(', ');
}

function readDigests(text: string): Map<string, string> {
  return new Map(
    text
      .split(', ')
      .map((pair) => pair.split('='))
      .filter((pair): pair is [string, string] => pair.length === 2),
  );
}

/** Whether an element is a region of the server’s. Pages of handlers that know nothing of us have no marks at all. */
export function isRegion(element: Element, mark: string): element is HTMLElement {
  return element.hasAttribute('data-region') && (mark === '' || element.getAttribute('data-mark') === mark);
}

/** The page’s regions by name; the first of a name counts. */
export function regionsOf(root: ParentNode, mark: string): Map<string, HTMLElement> {
  const regions = new Map<string, HTMLElement>();
  for (const element of root.querySelectorAll('[data-region]')) {
    const name = element.getAttribute('data-region') ?? '';
    if (isRegion(element, mark) && !regions.has(name)) regions.set(name, element);
  }
  return regions;
}

/**
 * Makes the regions of an answer those of the page: the server’s get the page’s mark, everything else that pretends to be one
 * is one no more.
 */
export function adopt(content: ParentNode, answerMark: string, pageMark: string): void {
  for (const element of content.querySelectorAll('[data-region]')) {
    if (element.hasAttribute('data-kept')) continue;
    if (answerMark !== '' && element.getAttribute('data-mark') !== answerMark) element.removeAttribute('data-region');
    else if (pageMark !== '') element.setAttribute('data-mark', pageMark);
  }
}
