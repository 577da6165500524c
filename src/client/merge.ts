/**
 * Merges new markup into what is on the page. Nodes that stay are the same nodes: with their focus, caret, scroll,
 * listeners, media and transitions. What the visitor typed stays, unless the server changed the field on purpose.
 */
import { fromAttribute, keptAttribute, keyAttribute, mergeAttribute, regionAttribute } from '../protocol/index.ts';
import { typedSince, wasToggled } from './typing.ts';

export interface MergeOptions {
  /** When the request was sent: what was typed later stays whatever the server says. */
  since: number;
  /** The form that was sent: its fields show what the server says, although their markup is as before. */
  sentForm?: HTMLFormElement | undefined;
  /** Regions of the page by name, which may move between elements. */
  regions: ReadonlyMap<string, Element>;
}

/** Makes the children of `target` like those of `source`, which is used up. */
export function mergeChildren(target: ParentNode & Node, source: ParentNode & Node, options: MergeOptions): void {
  const keyed = new Map<string, Element>();
  for (const child of target.children) {
    const key = keyOf(child);
    if (key !== undefined && !keyed.has(key)) keyed.set(key, child);
  }
  let cursor: ChildNode | null = target.firstChild;
  for (let wanted = source.firstChild; wanted; ) {
    const next = wanted.nextSibling;
    // Most of a page stays as it is: one look at a whole node is cheaper than a look at each part.
    if (cursor && cursor.nodeType === wanted.nodeType && isSame(cursor, wanted, options)) {
      cursor = cursor.nextSibling;
      wanted = next;
      continue;
    }
    const match: ChildNode | undefined = findMatch(wanted, cursor, keyed, options);
    if (!match) {
      target.insertBefore(wanted, cursor);
    } else {
      if (match === cursor) cursor = cursor.nextSibling;
      else if (match.parentNode === target && holdsFocus(match) && !canMove(target)) bringUp(match, cursor);
      else move(target, match, cursor);
      if (!isStub(wanted)) mergeNode(match, wanted, options);
    }
    wanted = next;
  }
  while (cursor) {
    const next: ChildNode | null = cursor.nextSibling;
    cursor.remove();
    cursor = next;
  }
}

/** Makes one element like another of the same kind. */
export function mergeElement(target: Element, source: Element, options: MergeOptions): void {
  if (target.getAttribute(mergeAttribute) === 'none' && source.getAttribute(mergeAttribute) === 'none') return;
  const before = controlBefore(target);
  const loads = target.hasAttribute(fromAttribute);
  const isLoaded = loads && !source.hasAttribute(fromAttribute);
  // A region that loads itself: the page brings its start tag, its own URL brings its content.
  if (!isLoaded) mergeAttributes(target, source);
  if (isLoaded || !loads) mergeChildren(contentOf(target), contentOf(source), options);
  if (before) mergeControl(before, options);
}

function mergeNode(target: ChildNode, source: ChildNode, options: MergeOptions): void {
  if (target instanceof Element && source instanceof Element) mergeElement(target, source, options);
  else if (target.nodeValue !== source.nodeValue) target.nodeValue = source.nodeValue;
}

/** Whether nothing of a node has to be looked at: the markup is the same, and no control in it follows the server. */
function isSame(target: ChildNode, source: ChildNode, options: MergeOptions): boolean {
  if (!target.isEqualNode(source)) return false;
  return !(
    options.sentForm &&
    target instanceof Element &&
    (options.sentForm.contains(target) || target.contains(options.sentForm))
  );
}

function findMatch(
  wanted: ChildNode,
  cursor: ChildNode | null,
  keyed: Map<string, Element>,
  options: MergeOptions,
): ChildNode | undefined {
  if (!(wanted instanceof Element)) return cursor && cursor.nodeType === wanted.nodeType ? cursor : undefined;
  const region = wanted.getAttribute(regionAttribute);
  if (region !== null) {
    const found = options.regions.get(region);
    return found && (isStub(wanted) || found.nodeName === wanted.nodeName) ? found : undefined;
  }
  const key = keyOf(wanted);
  if (key !== undefined) {
    const found = keyed.get(key);
    return found && found.nodeName === wanted.nodeName ? found : undefined;
  }
  // The next one of its kind; those passed over go, or are brought back by their keys.
  for (let node = cursor, steps = 0; node && steps < longestSearch; node = node.nextSibling, steps++) {
    if (node instanceof Element && keyOf(node) === undefined && isAlike(node, wanted)) return node;
  }
  return undefined;
}

/** How far a node of the same kind is looked for; further on it is rarely the same thing. */
const longestSearch = 12;

function isAlike(node: Element, wanted: Element): boolean {
  return (
    node.nodeName === wanted.nodeName &&
    node.getAttribute('type') === wanted.getAttribute('type') &&
    node.getAttribute('name') === wanted.getAttribute('name')
  );
}

function keyOf(element: Element): string | undefined {
  const region = element.getAttribute(regionAttribute);
  if (region !== null) return `region ${region}`;
  const key = element.getAttribute(keyAttribute);
  if (key !== null) return `key ${key}`;
  return element.id === '' ? undefined : `id ${element.id}`;
}

function isStub(node: Node): boolean {
  return node instanceof Element && node.hasAttribute(keptAttribute);
}

/** The content of a `<template>` is in a fragment of its own. */
function contentOf(element: Element): ParentNode & Node {
  return element instanceof HTMLTemplateElement ? element.content : element;
}

/** DOM “moveBefore”, which keeps focus, scroll and media; not in every browser yet. */
type MovingNode = ParentNode & Node & { moveBefore?: (node: Node, child: Node | null) => void };

function canMove(target: MovingNode): boolean {
  return target.moveBefore !== undefined;
}

function move(target: MovingNode, node: ChildNode, cursor: ChildNode | null): void {
  // Only a node that is in the same document, not in one of its own ancestors, can be moved with its state.
  if (target.moveBefore && node.isConnected && target.isConnected) target.moveBefore(node, cursor);
  else target.insertBefore(node, cursor);
}

/** Brings a node that has the focus to the cursor by moving those between after it. */
function bringUp(node: ChildNode, cursor: ChildNode | null): void {
  let before = cursor;
  let last: ChildNode = node;
  while (before && before !== node) {
    const next: ChildNode | null = before.nextSibling;
    last.after(before);
    last = before;
    before = next;
  }
}

function holdsFocus(node: Node): boolean {
  const focused = node.ownerDocument?.activeElement;
  return focused !== null && focused !== undefined && focused !== node.ownerDocument?.body && node.contains(focused);
}

/** Attributes that the client or the visitor sets while a page is open. */
const ownAttributes = new Set(['aria-busy', 'aria-disabled']);

function mergeAttributes(target: Element, source: Element): void {
  for (const { name, value } of [...source.attributes]) {
    if (name === 'open' && wasToggled(target)) continue;
    if (target.getAttribute(name) !== value) target.setAttribute(name, value);
  }
  for (const { name } of [...target.attributes]) {
    if (
      source.hasAttribute(name) ||
      ownAttributes.has(name) ||
      (name === 'open' && (wasToggled(target) || target instanceof HTMLDialogElement))
    )
      continue;
    target.removeAttribute(name);
  }
}

/** A control as it was before its markup was merged. */
type ControlBefore =
  | { kind: 'text'; control: HTMLInputElement | HTMLTextAreaElement; given: string; shown: string }
  | { kind: 'box'; control: HTMLInputElement; given: boolean; shown: boolean }
  | { kind: 'select'; control: HTMLSelectElement; given: string; shown: boolean[] };

function controlBefore(element: Element): ControlBefore | undefined {
  if (element instanceof HTMLInputElement) {
    if (element.type === 'checkbox' || element.type === 'radio')
      return { kind: 'box', control: element, given: element.defaultChecked, shown: element.checked };
    if (element.type === 'file') return undefined;
    return { kind: 'text', control: element, given: element.defaultValue, shown: element.value };
  }
  if (element instanceof HTMLTextAreaElement)
    return { kind: 'text', control: element, given: element.defaultValue, shown: element.value };
  if (element instanceof HTMLSelectElement) {
    return {
      kind: 'select',
      control: element,
      given: defaultsOf(element),
      shown: [...element.options].map((option) => option.selected),
    };
  }
  return undefined;
}

/** The server’s value is where the server changed it or the form was sent, unless the visitor typed since. */
function mergeControl(before: ControlBefore, { since, sentForm }: MergeOptions): void {
  const { control } = before;
  const wasSent = sentForm !== undefined && control.form === sentForm;
  const stays = typedSince(control, since);
  switch (before.kind) {
    case 'text': {
      const value =
        !stays && (wasSent || before.given !== before.control.defaultValue)
          ? before.control.defaultValue
          : before.shown;
      if (before.control.value !== value) before.control.value = value;
      break;
    }
    case 'box': {
      const checked =
        !stays && (wasSent || before.given !== before.control.defaultChecked)
          ? before.control.defaultChecked
          : before.shown;
      if (before.control.checked !== checked) before.control.checked = checked;
      break;
    }
    case 'select': {
      const follows = !stays && (wasSent || before.given !== defaultsOf(before.control));
      const options = [...before.control.options];
      for (const [index, option] of options.entries()) {
        const selected = follows ? option.defaultSelected : (before.shown[index] ?? option.defaultSelected);
        if (option.selected !== selected) option.selected = selected;
      }
      break;
    }
  }
}

function defaultsOf(select: HTMLSelectElement): string {
  return [...select.options].map((option) => `${option.value} ${option.defaultSelected}`).join('\n');
}
