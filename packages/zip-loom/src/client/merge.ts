/**
 * Merges three ways: what the server last said (the base), what it says now (theirs), and the page as it is (ours). Only what the
 * server changed is changed on the page, so that what visitors and scripts did stays; nodes that stay are the same nodes.
 */
import { fromAttribute, keptAttribute, keyAttribute, mergeAttribute, regionAttribute } from '../protocol/index.ts';
import { type Base, contentOf, liveFor } from './base.ts';
import { isControl, watchControl } from './controls.ts';
import { longestRun } from './longest-run.ts';
import { freshScript, trusted, withNonce } from './markup.ts';
import { keepScroll, typedSince } from './typing.ts';

export interface Merge {
  /** When the request was sent: what was typed later stays whatever the server says. */
  since: number;
  /** Nobody asked for it. */
  isBackground?: boolean | undefined;
  /** A form that was refused. */
  refusedForm?: HTMLFormElement | undefined;
  /** Regions of the base by name: they may move between elements. */
  regions: Map<string, Base<Element>>;
  /** What the server says no more. It leaves the page at the end, for a region in it may have a new place. */
  gone: Base[];
  /** Elements of the page that are new. */
  fresh: Element[];
}

/** Makes an element of the base like another, and the page with it. `theirs` is used up. */
export function mergeElement(base: Base<Element>, theirs: Element, merge: Merge): void {
  const isUntouched = (element: Element) => element.getAttribute(mergeAttribute) === 'none';
  const live = base.live!;
  if (isUntouched(base) && isUntouched(theirs)) return;
  const settle = isControl(base) ? watchControl(base, merge) : undefined;
  const loads = base.hasAttribute(fromAttribute);
  const isLoaded = loads && !theirs.hasAttribute(fromAttribute);
  // A region that loads itself: the page brings its start tag, its own URL brings its content.
  if (!isLoaded) mergeAttributes(base, theirs);
  if (isLoaded || !loads) {
    if (live instanceof HTMLElement && live.isContentEditable) mergeEditable(base, theirs, merge);
    else mergeChildren(base, theirs, merge);
  }
  settle?.();
}

export function mergeAttributes(base: Base<Element>, theirs: Element): void {
  // A nonce is another in each answer, and says nothing.
  for (const { name } of [...base.attributes])
    if (!theirs.hasAttribute(name) && name !== 'nonce')
      for (const element of [base, base.live!]) element.removeAttribute(name);
  for (const attribute of [...theirs.attributes]) {
    const { name, value } = attribute;
    if (base.getAttribute(name) === value || name === 'nonce') continue;
    const safe = trusted(base, name, value);
    for (const element of [base, base.live!]) {
      if (safe !== undefined) element.setAttribute(name, safe);
      // The attribute as it is: its namespace, and names that only a parser can make (HTML §13.2.5.33).
      else element.setAttributeNode(attribute.cloneNode() as Attr);
    }
  }
}

/** Text with markup is one value: the visitor’s or the server’s. */
function mergeEditable(base: Base<Element>, theirs: Element, { since, isBackground }: Merge): void {
  const live = base.live!;
  if (base.innerHTML === theirs.innerHTML) return;
  base.replaceChildren(...theirs.childNodes);
  if (typedSince(live, since) || (isBackground && live.contains(document.activeElement))) return;
  live.replaceChildren(...[...base.childNodes].map((child) => liveFor(child, true)));
}

/** Makes the children of an element of the base like those of another, and those of the page with them. */
export function mergeChildren(base: Base, theirs: Node, merge: Merge): void {
  const target = contentOf(base.live!);
  const parent = contentOf(base);
  const before: Base[] = [...parent.childNodes];
  const after: Base[] = [...contentOf(theirs).childNodes];
  let start = 0;
  let [end, stop] = [before.length, after.length];
  // Most of a page stays as it is: one look at a whole node is cheaper than a look at each part.
  while (start < end && start < stop && before[start]!.isEqualNode(after[start]!)) start++;
  while (end > start && stop > start && before[end - 1]!.isEqualNode(after[stop - 1]!)) {
    end--;
    stop--;
  }
  const isIn = (node: Base | null | undefined) => node?.live?.parentNode === target;
  const places = new Map<Base, number>();
  const keyed = new Map<string, Base>();
  for (let at = start; at < end; at++) {
    const node = before[at]!;
    const key = keyOf(node, parent);
    places.set(node, at);
    if (key !== undefined && !keyed.has(key)) keyed.set(key, node);
  }
  const used = new Set<Base>();
  const changed: Array<[Base, Base]> = [];
  const result: Base[] = [];
  let cursor = start;
  // A script has put something else in place of all that the server said.
  let isReplaced = false;
  for (const wanted of after.slice(start, stop)) {
    let match = findMatch(wanted);
    const differs = match && !isStub(wanted) && !match.isEqualNode(wanted);
    if (differs && target.isConnected && !match?.live?.isConnected) {
      // What a script took away and the server changed comes again.
      isReplaced ||= !before.some(isIn);
      match = undefined;
    }
    const node = match ?? create(wanted, parent, merge);
    if (match) {
      used.add(match);
      cursor = (places.get(match) ?? cursor - 1) + 1;
    }
    if (match ? differs : node !== wanted) changed.push([node, wanted]);
    result.push(node);
  }
  if (isReplaced) target.replaceChildren();
  for (const node of places.keys()) {
    if (used.has(node)) continue;
    parent.removeChild(node);
    merge.gone.push(node);
  }
  place();
  for (const [node, wanted] of changed) mergeNode(node, wanted, merge);

  function findMatch(wanted: Base): Base | undefined {
    const region = regionOf(wanted);
    if (region !== null) {
      const found = merge.regions.get(region);
      if (!found || used.has(found) || found.contains(parent) || (found.parentNode === parent && !places.has(found)))
        return undefined;
      return found.nodeName === wanted.nodeName ? found : renamed(found, wanted as Element, merge);
    }
    const key = keyOf(wanted, parent);
    if (key !== undefined) {
      const found = keyed.get(key);
      return found && !used.has(found) && found.nodeName === wanted.nodeName ? found : undefined;
    }
    // The next one of its kind; those passed over go, or are brought back by their keys.
    for (let at = cursor; at < end && at < cursor + longestSearch; at++) {
      const node = before[at]!;
      if (!used.has(node) && isAlike(node, wanted) && keyOf(node, parent) === undefined) return node;
    }
    return undefined;
  }

  /** Puts every node into its place; those that are in order among themselves stay where they are. */
  function place(): void {
    let indexes = result.flatMap((node) => (node.parentNode === parent ? (places.get(node) ?? []) : []));
    if (indexes.some((index, at) => index < (indexes[at - 1] ?? -1))) {
      const focused = before.findIndex((node) => holdsFocus(node.live));
      const at = indexes.indexOf(focused);
      // Where nodes cannot be moved with their state, the one that has the focus is not moved.
      if (at >= 0 && !canMove(target))
        indexes = indexes.filter((index, other) => index - focused === 0 || index > focused === other > at);
      indexes = [...longestRun(indexes)];
    }
    const stays = new Set(indexes.map((index) => before[index]));
    const first = before.slice(start).find(isIn)?.live ?? null;
    let previous: Base | null = before[start - 1] ?? null;
    for (const node of result) {
      if (!stays.has(node)) {
        parent.insertBefore(node, previous ? previous.nextSibling : parent.firstChild);
        // What a script has put between the server’s nodes stays where it is.
        let beside: Base | null = node.previousSibling;
        while (beside && !isIn(beside)) beside = beside.previousSibling;
        move(target, node.live!, beside ? beside.live!.nextSibling : first);
      }
      previous = node;
    }
  }
}

export function mergeNode(base: Base, theirs: Node, merge: Merge): void {
  if (base instanceof Element) mergeElement(base, theirs as Element, merge);
  else base.nodeValue = base.live!.nodeValue = theirs.nodeValue;
}

/**
 * A new node: for the base, and beside it for the page. Where a region of the page goes into it, it comes without its content, which
 * is merged when it is in its place, so that the region is moved rather than made again.
 */
export function create(theirs: Base, parent: Node, merge: Merge): Base {
  const isEmpty =
    theirs instanceof Element &&
    [...theirs.querySelectorAll(`[${regionAttribute}]`)].some((inner) => merge.regions.has(regionOf(inner)!));
  const base = isEmpty ? (theirs.cloneNode(false) as Base) : theirs;
  // What was on the page before is what it was, with all that was drawn, typed and scrolled in it.
  if (theirs.live && !theirs.live.isConnected) base.live = theirs.live;
  else if (theirs instanceof Element && parent.nodeName === 'HEAD') base.live = withNonce(freshScript(theirs));
  else liveFor(base, !isEmpty);
  if (base.live instanceof Element) merge.fresh.push(base.live);
  return base;
}

/** The region with another tag, and all that is in it. */
export function renamed(region: Base<Element>, theirs: Element, merge: Merge): Base<Element> {
  const base = theirs.cloneNode(false) as Base<Element>;
  const live = liveFor(base, false) as Element;
  region.live!.before(live);
  for (const child of [...region.live!.childNodes]) move(live, child, null);
  region.live!.remove();
  base.append(...region.childNodes);
  region.replaceWith(base);
  merge.regions.set(regionOf(theirs)!, base);
  return base;
}

/** How far a node of the same kind is looked for; further on it is rarely the same thing. */
const longestSearch = 12;

function isAlike(node: Node, wanted: Node): boolean {
  if (!(node instanceof Element && wanted instanceof Element)) return node.nodeType === wanted.nodeType;
  return (
    node.nodeName === wanted.nodeName &&
    ['type', 'name'].every((name) => node.getAttribute(name) === wanted.getAttribute(name))
  );
}

function keyOf(node: Node, parent: Node): string | undefined {
  if (!(node instanceof Element)) return undefined;
  const region = regionOf(node);
  if (region !== null) return `region ${region}`;
  const key = node.getAttribute(keyAttribute) ?? node.id;
  if (key !== '') return key;
  if (node.nodeName === 'OPTION') return `option ${(node as HTMLOptionElement).value}`;
  if (parent.nodeName !== 'HEAD') return undefined;
  return identityInHead(node);
}

/** What a style sheet, a script or a description in a head is known by. */
export function identityInHead(element: Element): string {
  const said = ['href', 'src', 'name', 'property'].map((name) => element.getAttribute(name));
  return [element.localName, ...said, element.textContent].join('\n');
}

function regionOf(node: Node): string | null {
  return node instanceof Element ? node.getAttribute(regionAttribute) : null;
}

/** Whether an element stands for a region that the page has. */
export function isStub(node: Node): boolean {
  return node instanceof Element && node.hasAttribute(keptAttribute);
}

/** DOM “moveBefore”, which keeps focus, scroll and media; not in every browser yet. */
type MovingNode = Node & { moveBefore?: (node: Node, child: Node | null) => void };

function canMove(target: MovingNode): boolean {
  return target.moveBefore !== undefined;
}

export function move(target: MovingNode, node: Node, next: Node | null): void {
  // Only a node that is in the same document, not in one of its own ancestors, can be moved with its state.
  const scrollAgain = keepScroll(node);
  if (target.moveBefore && node.isConnected && target.isConnected) target.moveBefore(node, next);
  else target.insertBefore(node, next);
  scrollAgain();
}

function holdsFocus(node: Node | undefined): boolean {
  const focused = document.activeElement;
  return focused !== document.body && node?.contains(focused) === true && focused !== null;
}
