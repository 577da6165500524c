/** Puts answers into the page. */
import {
  digestsAttribute,
  fromAttribute,
  headAttribute,
  mergeAttribute,
  mergeIntoAttribute,
  pageAttribute,
  pageRegion,
  regionAttribute,
  tokenAttribute,
  tokenField,
  writeDigests,
} from '../protocol/index.ts';
import { send } from './events.ts';
import { parseDocument, trust } from './markup.ts';
import { type MergeOptions, mergeChildren, mergeElement } from './merge.ts';
import { adopt, isMarked, type PageState, readList, regionsOf, unmarkedRegions } from './page.ts';

export interface ApplyOptions {
  /** When the request was sent. */
  since: number;
  sentForm?: HTMLFormElement | undefined;
}

/** Merges the regions of an answer, or where `page` is in it everything outside of regions too. */
export function applyParts(state: PageState, text: string, { since, sentForm }: ApplyOptions): void {
  const answer = parseDocument(text);
  const list = readList(answer);
  const options: MergeOptions = { since, sentForm, regions: regionsOf(document, state.mark) };
  // Only templates at the top of the answer are obeyed: what is deeper may be a visitor’s.
  const templates = [
    ...answer.querySelectorAll<HTMLTemplateElement>(
      `head > template[${mergeIntoAttribute}], body > template[${mergeIntoAttribute}]`,
    ),
  ];
  for (const template of templates) {
    const name = template.getAttribute(mergeIntoAttribute) ?? '';
    adopt(template.content, isMarked(list?.mark ?? ''), state.mark);
    // Until the server says otherwise, nothing is known of what has changed.
    state.digests.delete(name);
    if (name === pageRegion) applyBody(template.content, options);
    else applyRegion(name, template.content.firstElementChild, options);
  }
  const head = answer.querySelector<HTMLTemplateElement>(
    `head > template[${headAttribute}], body > template[${headAttribute}]`,
  );
  if (head) addToHead([...head.content.children]);
  const title = answer.querySelector('title')?.textContent;
  if (title && document.title !== title) {
    document.title = title;
    announce(title);
  }
  rewriteTokens(answer.querySelector<HTMLElement>(`template[${tokenAttribute}]`)?.getAttribute(tokenAttribute));
  if (list) {
    // A region alone comes with its own digest; what came from another URL says nothing of this page.
    const isWhole = list.digests.has(pageRegion);
    const present = regionsOf(document, state.mark);
    const isHere = ([name]: [string, string]) =>
      name === pageRegion || (present.has(name) && !present.get(name)?.hasAttribute(fromAttribute));
    state.digests = new Map(
      [...(isWhole ? [] : state.digests), ...[...list.digests].filter(isHere)].filter(
        ([name]) => name === pageRegion || present.has(name),
      ),
    );
    if (isWhole) state.name = list.name;
    writeList(state);
  }
}

/** Shows a whole page: its title, its styles, its body. Returns what is known of it now. */
export function applyPage(text: string, options: ApplyOptions): PageState {
  const answer = parseDocument(text);
  document.title = answer.title;
  announce(answer.title);
  mergeHead(answer);
  for (const { name } of [...document.body.attributes]) document.body.removeAttribute(name);
  for (const { name, value } of [...answer.body.attributes]) document.body.setAttribute(name, value);
  mergeChildren(document.body, answer.body, { since: options.since, regions: new Map() });
  return readList(document) ?? { name: '', mark: '', digests: new Map() };
}

/** Picks the regions of this page out of a page that knows nothing of us; false when the one that was asked for is not there. */
export function applyForeignPage(state: PageState, text: string, region: string, options: ApplyOptions): boolean {
  const answer = parseDocument(text);
  const list = readList(answer);
  const found = list ? regionsOf(answer, list.mark) : unmarkedRegions(answer);
  if (region !== pageRegion && !found.has(region)) return false;
  const regions = regionsOf(document, state.mark);
  // Without marks only what the page has already is taken for a region.
  adopt(answer.body, (element) => regions.has(nameOf(element)) && found.get(nameOf(element)) === element, state.mark);
  for (const [name, source] of found) {
    // Inner regions come with the outer ones.
    if (regions.has(name) && !source.parentElement?.closest(`[${regionAttribute}]`))
      applyRegion(name, source, { ...options, regions });
  }
  state.digests.clear();
  if (answer.title) document.title = answer.title;
  return true;
}

function nameOf(element: Element): string {
  return element.getAttribute(regionAttribute) ?? '';
}

/** Rewrites the token in every form of this page that posts to this site. */
function rewriteTokens(token: string | null | undefined): void {
  if (token === null || token === undefined) return;
  for (const field of document.querySelectorAll<HTMLInputElement>(`input[type=hidden][name=${tokenField}]`)) {
    const action = field.form && new URL(field.form.getAttribute('action') ?? '', location.href);
    if (action?.origin === location.origin && field.value !== token) field.setAttribute('value', token);
  }
}

/** A sentence for screen readers, said when they are free. */
function announce(text: string): void {
  let region = document.getElementById('loom-announcer');
  if (!region) {
    region = document.createElement('p');
    region.id = 'loom-announcer';
    region.setAttribute('aria-live', 'polite');
    region.setAttribute('role', 'status');
    region.setAttribute(mergeAttribute, 'none');
    // Out of sight, not out of hearing; through the object model, so that no inline style is needed.
    Object.assign(region.style, {
      position: 'absolute',
      width: '1px',
      height: '1px',
      overflow: 'hidden',
      clipPath: 'inset(50%)',
      whiteSpace: 'nowrap',
      margin: '0',
    });
    document.documentElement.append(region);
  }
  region.textContent = text;
}

function applyRegion(name: string, source: Element | null, options: MergeOptions): void {
  const target = options.regions.get(name);
  if (!target || !source || !target.isConnected) return;
  if (!send(target, 'loom:before-update', { region: name, content: source })) return;
  mergeElement(target, source, options);
  send(target, 'loom:updated', { region: name });
}

function applyBody(content: DocumentFragment, options: MergeOptions): void {
  if (!send(document.body, 'loom:before-update', { region: pageRegion, content })) return;
  const list = document.body.querySelector(`:scope > template[${pageAttribute}]:last-of-type`);
  // The list is not part of the answer’s body; it is at the end of ours.
  if (list) content.append(list.cloneNode(true));
  mergeChildren(document.body, content, options);
  send(document.body, 'loom:updated', { region: pageRegion });
}

/** Keeps the page’s own list true, for a page that is kept for later. */
function writeList(state: PageState): void {
  const list = [...document.querySelectorAll<HTMLTemplateElement>(`body > template[${pageAttribute}]`)].at(-1);
  if (!list) return;
  list.setAttribute(pageAttribute, state.name);
  list.setAttribute(digestsAttribute, writeDigests(state.digests));
}

/** Style sheets and scripts that the page does not have yet. */
function addToHead(elements: Element[]): void {
  for (const element of elements) {
    const same = [...document.querySelectorAll(element.localName)];
    if (!same.some((one) => contentOf(one) === contentOf(element))) document.head.append(fresh(element));
  }
}

function contentOf(element: Element): string {
  return element.getAttribute('src') ?? element.getAttribute('href') ?? element.textContent;
}

/** An element as if the page had come with it: scripts of a parsed answer never run (HTML §4.12.1.1). */
function fresh(element: Element): Element {
  const made = document.createElement(element.localName);
  for (const { name, value } of [...element.attributes])
    made.setAttribute(name, made.localName === 'script' && name === 'src' ? trust().createScriptURL(value) : value);
  if (made.localName !== 'script') made.textContent = element.textContent;
  return withNonce(made);
}

/** Gives an element of the server’s, from where no visitor can write, the nonce that the policy of this page asks for. */
function withNonce<Made extends Element>(element: Made): Made {
  const nonce = document.querySelector<HTMLElement>('script[nonce], style[nonce], link[nonce]')?.nonce;
  if (nonce && element.localName !== 'meta') element.setAttribute('nonce', nonce);
  return element;
}

/** Styles and links of the new page, without those that stay; its scripts are added. */
function mergeHead(answer: Document): void {
  const kept = new Set<string>();
  const wanted = [...answer.head.querySelectorAll('link, style, meta')];
  const texts = new Set(wanted.map(markupOf));
  for (const element of document.head.querySelectorAll('link, style, meta')) {
    if (texts.has(markupOf(element))) kept.add(markupOf(element));
    else element.remove();
  }
  for (const element of wanted) if (!kept.has(markupOf(element))) document.head.append(withNonce(element));
  addToHead([...answer.head.querySelectorAll('script[src]')]);
  // A page without regions says so in its head.
  for (const list of document.head.querySelectorAll(`template[${pageAttribute}]`)) list.remove();
  document.head.append(...answer.head.querySelectorAll(`template[${pageAttribute}]`));
}

/** An element as text, without the nonce, which is another for each page. */
function markupOf(element: Element): string {
  const copy = element.cloneNode(true) as Element;
  copy.removeAttribute('nonce');
  return copy.outerHTML;
}
