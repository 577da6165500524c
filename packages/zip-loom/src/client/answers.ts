/** Puts answers into the page. What was applied, and only that, counts as had. */
import {
  headAttribute,
  mergeIntoAttribute,
  pageRegion,
  putAttribute,
  regionAttribute,
  reloadAttribute,
  removeAttribute,
  tokenAttribute,
  tokenField,
} from '../protocol/index.ts';
import { announce } from './announcer.ts';
import type { Base } from './base.ts';
import { resetForm } from './controls.ts';
import { send } from './events.ts';
import { keepFocus, removeAll } from './focus.ts';
import { freshScript, parseDocument, withNonce } from './markup.ts';
import { identityInHead, isStub, type Merge, mergeAttributes, mergeChildren, mergeElement, renamed } from './merge.ts';
import { adopt, isMarked, type LeftPage, liveRegions, nameOf, type PageState, regionsOf, takeList } from './page.ts';
import { now } from './typing.ts';

export interface ApplyOptions extends Pick<Merge, 'since' | 'isBackground' | 'refusedForm'> {
  /** The form that was sent and taken: its fields show what the server says, although their markup is as before. */
  sentForm?: HTMLFormElement | undefined;
}

/** What has been done with an answer. */
export interface Applied {
  /** The parts that were merged, each with the regions that came inside. */
  parts: Map<string, string[]>;
  /** Regions whose content is now what the answer says. */
  regions: Set<string>;
  /** Elements that are new on the page. */
  fresh: Element[];
}

/** Merges the regions of an answer, or where `page` is in it everything outside of regions too; then makes its changes by name. */
export function applyParts(
  state: PageState,
  text: string,
  options: ApplyOptions,
  isWanted?: (name: string) => boolean,
): Applied {
  return applyAnswer(state, parseDocument(text), options, isWanted);
}

/** The same for an answer that is a document already; it is used up. */
export function applyAnswer(
  state: PageState,
  answer: Document,
  options: ApplyOptions,
  isWanted: (name: string) => boolean = () => true,
): Applied {
  const list = takeList(answer);
  const done = merging(state, options, (merge, applied) => {
    // Only templates at the top of the answer are obeyed: what is deeper may be a visitor’s.
    for (const template of topTemplates(answer, mergeIntoAttribute)) {
      const name = template.getAttribute(mergeIntoAttribute)!;
      if (!isWanted(name)) continue;
      adopt(template.content, isMarked(list.mark), state.mark);
      // Until the server says otherwise, nothing is known of what has changed.
      state.digests.delete(name);
      if (name !== pageRegion) {
        applyRegion(name, template.content.firstElementChild, merge, applied);
      } else if (mayApply(document.body, pageRegion, template.content, applied)) {
        const body = state.base.querySelector('body')!;
        mergeAttributes(state.base, answer.documentElement);
        mergeAttributes(body, answer.body);
        mergeChildren(body, template.content, merge);
      }
    }
  });
  addToHead(
    topTemplates(answer, headAttribute).flatMap(({ content }) => [...content.children]),
    state.base,
  );
  if (answer.title) setTitle(answer.title);
  for (const template of topTemplates(answer, tokenAttribute))
    renewTokens(state, template.getAttribute(tokenAttribute)!);
  // What the list says of what was not sent, as of a region alone, is true only where it was known before.
  const isWhole = list.digests.has(pageRegion);
  const present = regionsOf(state.base, state.mark);
  const owners = [...list.folded].map((name) => (name === pageRegion ? state.base : present.get(name)));
  const isAsBefore = (name: string) =>
    !list.digests.has(name) && !done.regions.has(name) && owners.some((one) => one?.contains(present.get(name)!));
  for (const name of [pageRegion, ...present.keys()]) {
    const digest = list.digests.get(name);
    if (digest !== undefined && done.regions.has(name)) state.digests.set(name, digest);
    else if (isWhole && state.digests.get(name) !== digest && !isAsBefore(name)) state.digests.delete(name);
  }
  if (list.position) state.position = list.position;
  // They are made when what came with them is there, by a module of their own.
  for (const one of topTemplates(answer, putAttribute, removeAttribute, reloadAttribute)) state.changes.push(one);
  for (const name of state.digests.keys()) if (name !== pageRegion && !present.has(name)) state.digests.delete(name);
  return done;
}

/** Shows a whole page: its title, its styles, its body. Changes what is known of the page. */
export function applyPage(state: PageState, text: string, options: ApplyOptions): Applied {
  const answer = parseDocument(text);
  const list = takeList(answer);
  // Merging uses it up.
  const { title } = answer;
  const mark = state.mark || list.mark;
  adopt(answer, isMarked(list.mark), mark);
  const done = merging(state, options, (merge, applied) => {
    if (mayApply(document.body, pageRegion, answer, applied)) showDocument(state, answer.documentElement, merge);
  });
  setTitle(title);
  Object.assign(state, list, { mark });
  // What somebody minded is not there.
  if (done.regions.size === 0) state.digests.clear();
  return done;
}

/** Shows a page that was left: the nodes that it had, where they are not on the page. */
export function applySnapshot(state: PageState, left: LeftPage): void {
  merging(state, { since: now() }, (merge) => showDocument(state, left.base, merge));
  state.name = left.name;
  state.token = left.token;
  state.digests = new Map(left.digests);
  state.sources = new Map(left.sources);
}

function showDocument(state: PageState, theirs: HTMLElement, merge: Merge): void {
  theirs.querySelector('head > title')?.remove();
  mergeElement(state.base, theirs, merge);
}

/** Picks the regions of this page out of a page that knows nothing of us; nothing where the one that was asked for is not there. */
export function applyForeignPage(
  state: PageState,
  text: string,
  region: string,
  options: ApplyOptions,
): Applied | undefined {
  const answer = parseDocument(text);
  const { mark } = takeList(answer);
  // Without marks the first of a name counts.
  const found = new Map<string, Element>();
  for (const one of answer.querySelectorAll(`[${regionAttribute}]`))
    if (!found.has(nameOf(one)) && (mark === '' || isMarked(mark)(one))) found.set(nameOf(one), one);
  if (region !== pageRegion && !found.has(region)) return undefined;
  const done = merging(state, options, (merge, applied) => {
    // Only what the page has already is taken for a region.
    const isRegion = (one: Element) => merge.regions.has(nameOf(one)) && found.get(nameOf(one)) === one;
    adopt(answer, isRegion, state.mark);
    for (const [name, source] of found) {
      // Inner regions come with the outer ones.
      if (!source.parentElement?.closest(`[${regionAttribute}]`)) applyRegion(name, source, merge, applied);
    }
  });
  state.digests.clear();
  if (answer.title) setTitle(answer.title);
  return done;
}

/** Merges, and sees to what belongs to every merge: what goes, the focus, the form that was sent, events. */
export function merging(
  state: PageState,
  { sentForm, ...options }: ApplyOptions,
  work: (merge: Merge, applied: Applied['parts']) => void,
): Applied {
  const merge: Merge = { ...options, regions: regionsOf(state.base, state.mark), gone: [], fresh: [] };
  const parts: Applied['parts'] = new Map();
  keepFocus(() => {
    work(merge, parts);
    removeAll(
      merge.gone.filter((one) => !state.base.contains(one)).map(({ live }) => live),
      [...liveRegions(state).values()],
    );
  });
  const shown = liveRegions(state);
  const targets = [...parts.keys()].map((name) => shown.get(name) ?? document.getElementById(name) ?? document.body);
  if (sentForm?.isConnected && targets.some((target) => target.contains(sentForm))) resetForm(sentForm, options.since);
  for (const [at, region] of [...parts.keys()].entries()) send(targets[at]!, 'loommerged', { region });
  return { parts, regions: new Set([...parts].flatMap(([name, inner]) => [name, ...inner])), fresh: merge.fresh };
}

function applyRegion(name: string, source: Element | null, merge: Merge, applied: Applied['parts']): void {
  const base = merge.regions.get(name);
  if (!source || !base?.live?.isConnected || !mayApply(base.live, name, source, applied)) return;
  mergeElement(base.nodeName === source.nodeName ? base : renamed(base, source, merge), source, merge);
}

/** Whether nobody minds. What is applied is noted, and which regions come with it. */
export function mayApply(
  target: Element,
  name: string,
  content: ParentNode & Node,
  applied: Applied['parts'],
): boolean {
  if (!send(target, 'loommerge', { region: name, content })) return false;
  const inner = [...content.querySelectorAll(`[${regionAttribute}]`)];
  applied.set(name, inner.filter((one) => !isStub(one)).map(nameOf));
  return true;
}

function topTemplates(answer: Document, ...attributes: string[]): HTMLTemplateElement[] {
  const selector = attributes.map((name) => `head>template[${name}],body>template[${name}]`);
  return [...answer.querySelectorAll<HTMLTemplateElement>(selector.join())];
}

/**
 * Renews the token where the server has put the one before: only there, for a field that a visitor wrote would be filled else. Forms of
 * other pages, in dialogs and regions, keep theirs.
 */
function renewTokens(state: PageState, token: string): void {
  const old = state.token;
  // Behind the dot is the page.
  if (!old || token.split('.')[1] !== old.split('.')[1]) return;
  state.token = token;
  for (const root of [document, state.base])
    for (const field of root.querySelectorAll<HTMLInputElement>(`input[name=${tokenField}]`))
      if (field.getAttribute('value') === old && staysHere(field.form)) field.setAttribute('value', token);
}

/** True if a form is sent to this site alone, and never as a query, whichever of its buttons sends it. */
function staysHere(form: HTMLFormElement | null): boolean {
  return ![...document.querySelectorAll<HTMLButtonElement>('[formaction],[formmethod]')].some(
    (one) => one.form === form && (one.formMethod === 'get' || new URL(one.formAction).origin !== location.origin),
  );
}

function setTitle(title: string): void {
  if (document.title === title) return;
  document.title = title;
  announce(title);
}

/** Style sheets and scripts that the page does not have yet. */
export function addToHead(elements: Array<Base<Element>>, base?: Element): void {
  for (const element of elements) {
    const isSame = (one: Element) => identityInHead(one) === identityInHead(element);
    if ([...document.querySelectorAll(element.localName)].some(isSame)) continue;
    element.live = withNonce(freshScript(element));
    document.head.append(element.live);
    base?.querySelector('head')?.append(element);
  }
}
