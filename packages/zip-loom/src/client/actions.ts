/** Which clicks and submits are answered in place, and what each asks for. The page is only read here. */
import {
  editField,
  fromAttribute,
  pageRegion,
  submitOnAttribute,
  updateAttribute,
  urlAttribute,
} from '../protocol/index.ts';
import { withoutFragment } from './urls.ts';

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

/** Files that no page is behind: the browser fetches them itself, so that they have their URL and are fetched once. */
const file =
  /\.(?:7z|avi|avif|bmp|csv|docx?|epub|gif|gz|ics|jpe?g|json|m4a|mp[34]|od[pst]|ogg|pdf|png|pptx?|svg|tar|txt|wav|webm|webp|xlsx?|xml|zip)$/i;

/** A link to a page of this site that was clicked; nothing where the browser has to follow it. */
export function clickedLink(event: MouseEvent): HTMLAnchorElement | undefined {
  // Through the shadow trees of elements of the page’s own, too.
  const link = event
    .composedPath()
    .find((one): one is HTMLAnchorElement => one instanceof Element && one.matches('a[href],area[href]'));
  const hasModifier = event.metaKey || event.ctrlKey || event.shiftKey || event.altKey;
  if (!link || event.defaultPrevented || event.button !== 0 || hasModifier) return undefined;
  // A link of a drawing has no URL as text.
  if (typeof link.href !== 'string' || link.isContentEditable) return undefined;
  const url = new URL(link.href);
  const isOurs = isHere(url, link.target) && !link.hasAttribute('download') && !file.test(url.pathname);
  const isPlaceOnPage = link.href.includes('#') && withoutFragment(link.href) === withoutFragment(location.href);
  return isOurs && !isPlaceOnPage ? link : undefined;
}

/** What such a link asks for; nothing where the browser has to follow it. */
export function linkAction(link: HTMLAnchorElement, regions: Regions): Action | undefined {
  const region = regionFor(link, regions);
  if (region === undefined) return undefined;
  return { region, url: link.href, method: 'GET', urlChange: keepsURL(link) ? 'keep' : 'push' };
}

/** How a form is submitted. */
export interface SubmitManner {
  urlChange: 'push' | 'replace';
  /** What is done to it instead of sending it off. */
  edit?: 'refresh' | undefined;
}

/** What a form asks for when it is submitted; nothing where the browser has to send it. */
export function submitAction(
  form: HTMLFormElement,
  submitter: HTMLElement | undefined,
  { urlChange, edit }: SubmitManner,
  regions: Regions,
): Action | undefined {
  const said = (name: string) => submitter?.getAttribute(`form${name}`) ?? form.getAttribute(name) ?? '';
  const method = said('method').toUpperCase() === 'POST' ? 'POST' : 'GET';
  const encoding = said('enctype').toLowerCase();
  // Without a URL a form goes to that of the page, whatever its base is (HTML §4.10.21.3).
  const url = said('action') === '' ? new URL(location.href) : new URL(said('action'), document.baseURI);
  if (said('method').toUpperCase() === 'DIALOG' || encoding === 'text/plain' || !isHere(url, said('target')))
    return undefined;
  const region = regionFor(submitter ?? form, regions) ?? regionFor(form, regions);
  if (region === undefined) return undefined;
  const data = new FormData(form, submitter);
  const action: Action = {
    region,
    url: url.href,
    method,
    form,
    submitter,
    urlChange: keepsURL(submitter ?? form) ? 'keep' : urlChange,
  };
  if (method === 'GET') {
    let texts = textsOf(data);
    // A search that is typed begins with most of its fields empty.
    if (form.hasAttribute(submitOnAttribute)) texts = texts.filter(([, value]) => value !== '');
    url.search = new URLSearchParams(texts).toString();
    return { ...action, url: url.href };
  }
  if (edit) data.append(editField, edit);
  const hasFiles = [...data.values()].some((value) => value instanceof File && value.size > 0);
  return {
    ...action,
    body: hasFiles || encoding === 'multipart/form-data' ? data : new URLSearchParams(textsOf(data)),
  };
}

/** Whether a URL is on this site and shown in this window. */
function isHere(url: URL, target: string): boolean {
  const wanted = target || (document.querySelector<HTMLBaseElement>('base[target]')?.target ?? '');
  return url.origin === location.origin && (wanted === '' || wanted.toLowerCase() === '_self');
}

/** The region on whose behalf an element acts; nothing where it is an ordinary one. */
export function regionFor(element: Element, regions: Regions): string | undefined {
  const said = element.closest(`[${updateAttribute}]`);
  // The innermost comes last.
  const [name, region] = [...regions].filter(([, one]) => one.contains(element)).at(-1) ?? [];
  // What is said nearer than the region counts, also further out when there is no region.
  const wish =
    said && (!region || region.contains(said) || said.contains(region)) ? said.getAttribute(updateAttribute) : null;
  if (wish === 'none') return undefined;
  return wish ?? name;
}

function keepsURL(element: Element): boolean {
  const said = element.closest(`[${urlAttribute}], [${fromAttribute}]`);
  return said !== null && (said.hasAttribute(fromAttribute) || said.getAttribute(urlAttribute) === 'keep');
}

function textsOf(data: FormData): Array<[string, string]> {
  return [...data].map(([name, value]) => [name, typeof value === 'string' ? value : value.name]);
}

/** The element that an action’s region is; the body for the page. */
export function elementOf(region: string, regions: Regions): HTMLElement | undefined {
  return regions.get(region) ?? (region === pageRegion ? document.body : undefined);
}
