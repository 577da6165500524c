/**
 * The base: what the server last said of the page, as nodes beside those of the page. They are in a document of their own, where
 * nothing loads, runs or shows. Each knows the node of the page that it describes, whatever scripts and visitors do to that one.
 */

/** A node of the base. */
export type Base<Kind extends Node = Node> = Kind & {
  /** The node of the page; missing where the page was never given one. */
  live?: Kind;
};

const inert = typeof document === 'undefined' ? undefined : document.implementation.createHTMLDocument();

/** A copy for the base of what is on the page. */
export function baseOf<Kind extends Node>(live: Kind): Base<Kind> {
  const base = inert!.importNode(live, true) as Base<Kind>;
  pair(base, live);
  return base;
}

/** A node for the page, beside one of the base. Adopted when it is placed, so that nothing in it runs before it is known. */
export function liveFor(base: Base, deep: boolean): Node {
  const live = base.cloneNode(deep);
  if (deep) pair(base, live);
  else base.live = live;
  return live;
}

/** A copy of a part of the base, beside the same nodes of the page. */
export function copyOf<Kind extends Node>(base: Base<Kind>): Base<Kind> {
  const copy = base.cloneNode(true) as Base<Kind>;
  pair(copy, base, (node) => node.live);
  return copy;
}

function pair(base: Base, other: Base, liveOf: (other: Base) => Node | undefined = (node) => node): void {
  const live = liveOf(other);
  if (live) base.live = live;
  let child: Base | null = contentOf(base).firstChild;
  let partner: Base | null = child && contentOf(other).firstChild;
  while (child && partner) {
    pair(child, partner, liveOf);
    child = child.nextSibling;
    partner = partner.nextSibling;
  }
}

/** The content of a `<template>` is in a fragment of its own. */
export function contentOf(node: Node): Node & ParentNode {
  return node instanceof HTMLTemplateElement ? node.content : (node as Node & ParentNode);
}
