/** Puts answers into the page. */
import { send } from './events.ts';
import { parseDocument, trust } from './markup.ts';
import { type MergeOptions, mergeChildren, mergeElement } from './merge.ts';
import { adopt, isMarked, type PageState, readList, regionsOf, unmarkedRegions } from './page.ts';

export interface LandOptions {
  /** When the request was sent. */
  since: number;
  sentForm?: HTMLFormElement | undefined;
}

/** Merges the regions of an answer, or where `page` stands in it everything outside of regions too. */
export function landParts(state: PageState, text: string, { since, sentForm }: LandOptions): void {
  const answer = parseDocument(text);
  const list = readList(answer);
  const options: MergeOptions = { since, sentForm, regions: regionsOf(document, state.mark) };
  // Only templates at the top of the answer are obeyed: what stands deeper may be a visitor’s.
  const templates = [
    ...answer.querySelectorAll<HTMLTemplateElement>(
      'head > template[data-merge-into], body > template[data-merge-into]',
    ),
  ];
  for (const template of templates) {
    const name = template.dataset['mergeInto'] ?? '';
    adopt(template.content, isMarked(list?.mark ?? ''), state.mark);
    // Until the server says otherwise, nothing is known of what has changed.
    state.has.delete(name);
    if (name === 'page') landBody(template.content, options);
    else landRegion(name, template.content.firstElementChild, options);
  }
  const head = answer.querySelector<HTMLTemplateElement>('head > template[data-head], body > template[data-head]');
  if (head) addToHead([...head.content.children]);
  const title = answer.querySelector('title')?.textContent;
  if (title && document.title !== title) {
    document.title = title;
    announce(title);
  }
  rewriteTokens(answer.querySelector<HTMLElement>('template[data-token]')?.dataset['token']);
  if (list) {
    // A region alone comes with its own digest; what came from another address says nothing of this page.
    const isWhole = list.has.has('page');
    const present = regionsOf(document, state.mark);
    const isHere = ([name]: [string, string]) =>
      name === 'page' || (present.has(name) && !present.get(name)?.hasAttribute('data-from'));
    state.has = new Map(
      [...(isWhole ? [] : state.has), ...[...list.has].filter(isHere)].filter(
        ([name]) => name === 'page' || present.has(name),
      ),
    );
    if (isWhole) state.name = list.name;
    writeList(state);
  }
}

/** Shows a whole page: its title, its styles, its body. Returns what is known of it now. */
export function landPage(text: string, options: LandOptions): PageState {
  const answer = parseDocument(text);
  document.title = answer.title;
  announce(answer.title);
  mergeHead(answer);
  for (const { name } of [...document.body.attributes]) document.body.removeAttribute(name);
  for (const { name, value } of [...answer.body.attributes]) document.body.setAttribute(name, value);
  mergeChildren(document.body, answer.body, { since: options.since, regions: new Map() });
  return readList(document) ?? { name: '', mark: '', has: new Map() };
}

/** Picks the regions of this page out of a page that knows nothing of us; false when the asking one is not there. */
export function landForeignPage(state: PageState, text: string, asks: string, options: LandOptions): boolean {
  const answer = parseDocument(text);
  const list = readList(answer);
  const found = list ? regionsOf(answer, list.mark) : unmarkedRegions(answer);
  if (asks !== 'page' && !found.has(asks)) return false;
  const regions = regionsOf(document, state.mark);
  // Without marks only what the page has already is taken for a region.
  adopt(answer.body, (element) => regions.has(nameOf(element)) && found.get(nameOf(element)) === element, state.mark);
  for (const [name, source] of found) {
    // Inner regions come with the outer ones.
    if (regions.has(name) && !source.parentElement?.closest('[data-region]'))
      landRegion(name, source, { ...options, regions });
  }
  state.has.clear();
  if (answer.title) document.title = answer.title;
  return true;
}

function nameOf(element: Element): string {
  return element.getAttribute('data-region') ?? '';
}

/** Rewrites the token in every form of this page that posts to this site. */
export function rewriteTokens(token: string | undefined): void {
  if (token === undefined) return;
  for (const field of document.querySelectorAll<HTMLInputElement>('input[type=hidden][name=_token]')) {
    const action = field.form && new URL(field.form.getAttribute('action') ?? '', location.href);
    if (action?.origin === location.origin && field.value !== token) field.setAttribute('value', token);
  }
}

/** A sentence for screen readers, said when they are free. */
export function announce(text: string): void {
  let region = document.getElementById('loom-announcer');
  if (!region) {
    region = document.createElement('p');
    region.id = 'loom-announcer';
    region.setAttribute('aria-live', 'polite');
    region.setAttribute('role', 'status');
    region.setAttribute('data-merge', 'none');
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

function landRegion(name: string, source: Element | null, options: MergeOptions): void {
  const target = options.regions.get(name);
  if (!target || !source || !target.isConnected) return;
  if (!send(target, 'loom:update', { region: name, content: source })) return;
  mergeElement(target, source, options);
  send(target, 'loom:updated', { region: name });
}

function landBody(content: DocumentFragment, options: MergeOptions): void {
  if (!send(document.body, 'loom:update', { region: 'page', content })) return;
  const list = document.body.querySelector(':scope > template[data-page]:last-of-type');
  // The list is not part of the answer’s body; it stands at the end of ours.
  if (list) content.append(list.cloneNode(true));
  mergeChildren(document.body, content, options);
  send(document.body, 'loom:updated', { region: 'page' });
}

/** Keeps the page’s own list true, for a page that is kept for later. */
function writeList(state: PageState): void {
  const list = [...document.querySelectorAll<HTMLTemplateElement>('body > template[data-page]')].at(-1);
  if (!list) return;
  list.dataset['page'] = state.name;
  list.dataset['has'] = [...state.has].map((pair) => pair.join('=')).join(', ');
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
  for (const list of document.head.querySelectorAll('template[data-page]')) list.remove();
  document.head.append(...answer.head.querySelectorAll('template[data-page]'));
}

/** An element as text, without the nonce, which is another for each page. */
function markupOf(element: Element): string {
  const copy = element.cloneNode(true) as Element;
  copy.removeAttribute('nonce');
  return copy.outerHTML;
}
