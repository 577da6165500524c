/** Changes by name: what an answer puts on the page, and takes from it, beside its regions. */
import {
  markAttribute,
  pageRegion,
  putAttribute,
  regionAttribute,
  reloadAttribute,
  removeAttribute,
  wrappedAttribute,
} from '../../protocol/index.ts';
import type { Base } from '../base.ts';
import type { Merge } from '../merge.ts';
import type { PageState } from '../page.ts';
import type { ApplyOptions, Tools } from '../tools.ts';

/** Makes changes, in their order. @returns elements that are new on the page */
export function applyChanges(
  tools: Tools,
  state: PageState,
  templates: readonly HTMLTemplateElement[],
  options: ApplyOptions,
): Element[] {
  const { adopt, isMarked, mayApply, merging } = tools;
  const made: Element[] = [];
  let at = 0;
  while (at < templates.length) {
    const { fresh } = merging(state, options, (merge, applied) => {
      let hasRegions = false;
      // What goes leaves the page at the end of a merge: what comes after it begins another, and so does what comes after new regions.
      for (; at < templates.length && merge.gone.length === 0 && !hasRegions; at++) {
        const template = templates[at]!;
        const region = template.getAttribute(reloadAttribute);
        if (region !== null) state.wanted.add(region);
        // A change to what is not on the page does nothing.
        const place = region === null ? placeOf(tools, state, template, merge.regions) : undefined;
        if (!place) continue;
        adopt(template.content, isMarked(template.getAttribute(markAttribute) ?? ''), state.mark);
        hasRegions = template.content.querySelector(`[${regionAttribute}]`) !== null;
        if (mayApply(place.element.live!, place.target, template.content, applied))
          applyChange(tools, state, template, place, merge);
      }
    });
    for (const one of fresh) made.push(one);
  }
  return made;
}

/** Where a change is made. */
interface ChangePlace {
  /** The region or the id that it names. */
  target: string;
  /** That element. */
  element: Base<Element>;
}

/** Finds where a change is made; nothing where that is not on the page. */
function placeOf(
  tools: Tools,
  state: PageState,
  template: Element,
  regions: Merge['regions'],
): ChangePlace | undefined {
  const said = template.getAttribute(putAttribute);
  const target = said?.slice(said.indexOf(' ') + 1) ?? template.getAttribute(removeAttribute) ?? '';
  const element = find(tools, state, target, regions);
  return element && { target, element };
}

/** Makes a change. What it was made in is as the server said it no more. */
function applyChange(
  tools: Tools,
  state: PageState,
  template: HTMLTemplateElement,
  { element: target }: ChangePlace,
  merge: Merge,
): void {
  const [how] = template.getAttribute(putAttribute)?.split(' ') ?? [];
  const isInside = how === 'inside' || how === 'at-start-of' || how === 'at-end-of';
  const parent = isInside ? target : parentOf(tools, target);
  // Nothing can be beside the body.
  if (!parent || (!isInside && target.nodeName === 'BODY')) return;
  forget(state, parent);
  const leave = (node: Base) => {
    (node as Base<Element>).remove();
    merge.gone.push(node);
  };
  if (how === undefined) {
    leave(target);
    return;
  }
  const { create, mergeChildren, mergeElement, mergeNode, move } = tools;
  const content = contentFor(tools, parent, template);
  for (const region of content.querySelectorAll(`[${regionAttribute}]`))
    state.digests.delete(region.getAttribute(regionAttribute)!);
  if (how === 'inside') {
    mergeChildren(parent, content, merge);
    return;
  }
  const isAtEdge = how === 'at-start-of' || how === 'at-end-of';
  const firsts: Record<string, Base | null> = {
    'at-start-of': parent.firstChild,
    'at-end-of': null,
    after: target.nextSibling,
  };
  let next: Base | null = how in firsts ? firsts[how]! : target;
  const liveParent = parent.live!;
  const lives: Record<string, Node | null> = {
    'at-start-of': liveParent.firstChild,
    'at-end-of': null,
    after: target.live!.nextSibling,
  };
  let liveNext: Node | null = how in lives ? lives[how]! : target.live!;
  let isReused = false;
  for (const wanted of [...content.childNodes] as Base[]) {
    const known = find(tools, state, wanted instanceof Element ? wanted.id : '', merge.regions, wanted);
    const isKnown = known && !known.contains(parent);
    if (isKnown && known.nodeName === wanted.nodeName) {
      isReused ||= known === target;
      // A row that comes again stays where it is in its list.
      if (!(isAtEdge && known.parentNode === parent)) put(known);
      mergeElement(known, wanted as Element, merge);
      continue;
    }
    const made = create(wanted, parent, merge);
    put(made);
    if (made !== wanted) mergeNode(made, wanted, merge);
    if (isKnown && known !== target) leave(known);
  }
  if (how === 'in-place-of' && !isReused) leave(target);

  function put(node: Base): void {
    if (node === next) next = next.nextSibling;
    else parent!.insertBefore(node, next);
    if (node.live === liveNext) liveNext = liveNext!.nextSibling;
    else move(liveParent, node.live!, liveNext);
  }
}

let lastFound: Base<Element> | undefined;

/** An element of the page by the name of its region or by its id, beside what the server said of it. */
function find(
  { baseOf }: Tools,
  state: PageState,
  name: string,
  regions: Merge['regions'],
  like?: Node,
): Base<Element> | undefined {
  const region = like instanceof Element ? like.getAttribute(regionAttribute) : name;
  const body = state.base.querySelector<Base<Element>>('body')!;
  if (!like && name === pageRegion) return body;
  const found = regions.get(region ?? '');
  if (found?.live?.isConnected) return found;
  const live = name === '' ? null : document.getElementById(name);
  if (!live) return undefined;
  // The same list is often added to many times.
  if (lastFound?.live === live && state.base.contains(lastFound)) return lastFound;
  const said = [...state.base.querySelectorAll<Base<Element>>(`[id="${CSS.escape(name)}"]`)];
  lastFound = said.find((one) => one.live === live);
  return lastFound ?? (body.live!.contains(live) ? baseOf(live) : undefined);
}

/** What a script has made has no place in what the server said. */
function parentOf({ baseOf }: Tools, target: Base<Element>): Base<Element> | undefined {
  if (target.parentElement) return target.parentElement;
  const live = target.live!.parentElement;
  if (!live) return undefined;
  const parent: Base<Element> = baseOf(live);
  // The same place in the copy.
  const twin = parent.children[[...live.children].indexOf(target.live!)];
  twin?.replaceWith(target);
  return parent;
}

/** The digest of what a change is made in is worth nothing. */
function forget({ digests, mark }: PageState, parent: Base<Element>): void {
  const region = parent.closest(`[${regionAttribute}][${markAttribute}="${mark}"]`);
  digests.delete(region?.getAttribute(regionAttribute) ?? pageRegion);
}

/** The nodes that are put; those of drawings and formulas as such. */
function contentFor(
  { parseDocument }: Tools,
  parent: Element,
  { content, innerHTML, attributes }: HTMLTemplateElement,
): ParentNode & Node {
  if (attributes.getNamedItem(wrappedAttribute)) return content.firstElementChild ?? content;
  const { namespaceURI, localName } = parent;
  if (namespaceURI?.endsWith('xhtml') || localName === 'foreignObject') return content;
  const wrapper = namespaceURI?.endsWith('svg') ? 'svg' : 'math';
  return parseDocument(`<${wrapper}>${innerHTML}</${wrapper}>`).querySelector(wrapper)!;
}
