/** What the browser has: what the server last said of the page, its list of digests, and the regions that are the server’s. */
import {
  channelsAttribute,
  digestsAttribute,
  fromAttribute,
  keptAttribute,
  markAttribute,
  pageAttribute,
  positionAttribute,
  readDigests,
  regionAttribute,
  tokenAttribute,
} from '../protocol/index.ts';
import type { Base } from './base.ts';
import { takeFirstBase } from './first-base.ts';

/** The list at the end of a page or an answer. */
export interface PageList {
  /** The page’s template and layouts; '' where no server of ours made it. */
  name: string;
  /** Proves a region to be the server’s. */
  mark: string;
  /** The token in the forms of the page; '' where none holds one. */
  token: string;
  /** Digests by region. A region without one is sent whole. */
  digests: Map<string, string>;
  /** Where changes of channels come from, and how far they were when the page was asked for; '' where there are none. */
  channels: string;
  position: string;
  /** Regions in which the list tells of what has changed alone. */
  folded: ReadonlySet<string>;
}

/** The page as the server described it. */
export interface PageState extends PageList {
  /** `<html>`, with all that is in it, and beside it the page. */
  readonly base: Base<HTMLElement>;
  /** Whether that has been made: until then the page is as the server said it. */
  readonly hasBase: boolean;
  /** Where regions that load themselves were loaded from since, by name and `from`. */
  sources: Map<string, string>;
  /** Changes by name that are still to be made. */
  changes: HTMLTemplateElement[];
  /** Regions that the server wants the browser to ask for. */
  wanted: Set<string>;
}

/** What is kept of a page that was left. */
export type LeftPage = Pick<PageState, 'name' | 'token' | 'digests' | 'sources' | 'base'>;

/** What is known of the page that the browser has loaded. */
export function readPage(): PageState {
  const list = findList(document);
  const firstBase = takeFirstBase();
  let given: Base<HTMLElement> | undefined;
  return {
    ...readList(list),
    sources: new Map(),
    changes: [],
    wanted: new Set(),
    get base() {
      if (given) return given;
      given = firstBase();
      // The list of an answer is not part of it, and so no merge touches that of the page.
      findList(given)?.remove();
      return given;
    },
    get hasBase() {
      return given !== undefined;
    },
  };
}

/** Takes the list out of an answer. */
export function takeList(answer: ParentNode): PageList {
  const list = findList(answer);
  list?.remove();
  return readList(list);
}

/**
 * Where no visitor can write, in the head, or the last one at the top of the page, for the server writes it at the very end, after all
 * that visitors wrote.
 */
function findList(page: ParentNode): Element | undefined {
  const [inHead, inBody] = ['head', 'body'].map((place) =>
    [...page.querySelectorAll(`${place} > template[${pageAttribute}]`)].at(-1),
  );
  return inHead ?? inBody;
}

/** Marks of all that the server has sent to this page. No visitor knows one. */
const marks = new Set<string>();

function noteMark(mark: string): string {
  if (mark) marks.add(mark);
  return mark;
}

/** True if the server wrote the element, whichever answer it came with. */
export function isServers(element: Element): boolean {
  return marks.has(element.getAttribute(markAttribute)!);
}

function readList(list: Element | undefined): PageList {
  const said = (name: string) => list?.getAttribute(name) ?? '';
  const { digests, folded } = readDigests(said(digestsAttribute));
  const [channels, position] = [said(channelsAttribute), said(positionAttribute)];
  return {
    name: said(pageAttribute),
    mark: noteMark(said(markAttribute)),
    token: said(tokenAttribute),
    digests,
    folded: new Set(folded.keys()),
    channels,
    position,
  };
}

/** Regions by name: those that bear the server’s mark, which no visitor knows. The first of a name counts. */
export function regionsOf(root: ParentNode, mark: string): Map<string, Base<Element>> {
  const regions = new Map<string, Base<Element>>();
  for (const element of mark === '' ? [] : root.querySelectorAll(`[${regionAttribute}]`)) {
    if (!regions.has(nameOf(element)) && element.getAttribute(markAttribute) === mark)
      regions.set(nameOf(element), element);
  }
  return regions;
}

/** Regions as they are on the page now. */
export function liveRegions(state: PageState): Map<string, HTMLElement> {
  const { mark } = state;
  if (!state.hasBase) return regionsOf(document, mark) as Map<string, HTMLElement>;
  const known = [...regionsOf(state.base, mark)];
  return new Map(known.flatMap(([name, { live }]) => (live?.isConnected ? [[name, live as HTMLElement]] : [])));
}

/** Where a region is asked for: from where it was loaded, or from the page that shows it. */
export function sourceOf({ sources }: PageState, name: string, region: Element | undefined): string {
  const from = region?.getAttribute(fromAttribute);
  return new URL((from && (sources.get(`${name} ${from}`) ?? from)) || location.href, document.baseURI).href;
}

/** Remembers where a region was loaded from, where that is not the page. */
export function noteSource({ sources }: PageState, name: string, region: Element | undefined, url: string): void {
  const from = region?.getAttribute(fromAttribute);
  if (from) sources.set(`${name} ${from}`, url);
}

/** Makes the regions of an answer those of the page. Everything else that pretends to be one is one no more. */
export function adopt(content: ParentNode, isRegion: (element: Element) => boolean, mark: string): void {
  for (const element of content.querySelectorAll(`[${regionAttribute}]`)) {
    if (element.hasAttribute(keptAttribute)) continue;
    if (!isRegion(element)) element.removeAttribute(regionAttribute);
    else if (mark !== '') element.setAttribute(markAttribute, mark);
  }
}

/** Whether an element of an answer bears the answer’s mark. */
export function isMarked(mark: string): (element: Element) => boolean {
  noteMark(mark);
  return (element) => mark !== '' && element.getAttribute(markAttribute) === mark;
}

export function nameOf(region: Element): string {
  return region.getAttribute(regionAttribute) ?? '';
}
