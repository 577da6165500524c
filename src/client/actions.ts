/** Which clicks and submits are answered in place, and what each asks for. The page is only read here. */
import { fromAttribute, pageRegion, regionAttribute, updateAttribute, urlAttribute } from '../protocol/index.ts';

/** A link or a form that is answered in place. */
export interface Action {
  /** The region it acts in, or `page`. */
  region: string;
  url: string;
  method: 'GET' | 'POST';
  body?: BodyInit | undefined;
  form?: HTMLFormElement | undefined;
  submitter?: HTMLElement | undefined;
  /** What becomes of the URL in the address bar. */
  urlChange: 'push' | 'replace' | 'keep';
}

type Regions = ReadonlyMap<string, HTMLElement>;

/** What a click asks for; nothing where the browser has to follow it. */
export function clickAction(event: MouseEvent, regions: Regions): { action: Action; link: Element } | undefined {
  const link = event.target instanceof Element ? event.target.closest<HTMLAnchorElement>('a[href]') : null;
  const hasModifier = event.metaKey || event.ctrlKey || event.shiftKey || event.altKey;
  if (!link || event.defaultPrevented || event.button !== 0 || hasModifier) return undefined;
  const url = new URL(link.href, location.href);
  const isOurs =
    url.origin === location.origin && (link.target === '' || link.target === '_self') && !link.hasAttribute('download');
  const isPlaceOnPage = url.hash !== '' && url.pathname === location.pathname && url.search === location.search;
  const region = isOurs && !isPlaceOnPage ? regionFor(link, regions) : undefined;
  if (region === undefined) return undefined;
  const urlChange = keepsURL(link) ? 'keep' : 'push';
  return { action: { region, url: url.href, method: 'GET', urlChange }, link };
}

/** What a form asks for when it is submitted; nothing where the browser has to send it. */
export function submitAction(
  form: HTMLFormElement,
  submitter: HTMLElement | undefined,
  urlChange: 'push' | 'replace',
  regions: Regions,
): Action | undefined {
  const method = (submitter?.getAttribute('formmethod') ?? form.getAttribute('method') ?? 'get').toUpperCase();
  const target = submitter?.getAttribute('formtarget') ?? form.getAttribute('target') ?? '';
  const url = new URL(submitter?.getAttribute('formaction') ?? form.getAttribute('action') ?? '', location.href);
  if (method === 'DIALOG' || url.origin !== location.origin || (target !== '' && target !== '_self')) return undefined;
  const region = regionFor(submitter ?? form, regions) ?? regionFor(form, regions);
  if (region === undefined) return undefined;
  const data = new FormData(form, submitter as HTMLButtonElement | undefined);
  const change = keepsURL(submitter ?? form) ? 'keep' : urlChange;
  if (method === 'GET') {
    url.search = new URLSearchParams(textsOf(data)).toString();
    return { region, url: url.href, method, form, urlChange: change };
  }
  const hasFiles = [...data.values()].some((value) => value instanceof File);
  const body = hasFiles ? data : new URLSearchParams(textsOf(data));
  return { region, url: url.href, method: 'POST', body, form, submitter, urlChange: change };
}

/** The region on whose behalf an element acts; nothing where it is an ordinary one. */
function regionFor(element: Element, regions: Regions): string | undefined {
  const said = element.closest(`[${updateAttribute}]`);
  const region = [...ancestors(element)].find((one) => regions.get(one.getAttribute(regionAttribute) ?? '') === one);
  // What is said nearer than the region counts, also further out when there is no region.
  const wish =
    said && (!region || region.contains(said) || said.contains(region)) ? said.getAttribute(updateAttribute) : null;
  if (wish === 'none') return undefined;
  return wish ?? region?.getAttribute(regionAttribute) ?? undefined;
}

function keepsURL(element: Element): boolean {
  const said = element.closest(`[${urlAttribute}], [${fromAttribute}]`);
  return said !== null && (said.hasAttribute(fromAttribute) || said.getAttribute(urlAttribute) === 'keep');
}

function* ancestors(element: Element): Iterable<Element> {
  for (let one: Element | null = element; one; one = one.parentElement) yield one;
}

function textsOf(data: FormData): Array<[string, string]> {
  return [...data].map(([name, value]) => [name, typeof value === 'string' ? value : value.name]);
}

/** The element that an action’s region is; the body for the page. */
export function elementOf(region: string, regions: Regions): HTMLElement | undefined {
  return regions.get(region) ?? (region === pageRegion ? document.body : undefined);
}
