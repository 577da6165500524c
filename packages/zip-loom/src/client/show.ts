/** Shows in an element what templates print here, in the browser, without a server. */
import { type Base, baseOf } from './base.ts';
import { keepFocus, removeAll } from './focus.ts';
import { parseDocument } from './markup.ts';
import { type Merge, mergeChildren } from './merge.ts';
import { now, watchTyping } from './typing.ts';

/** What was last shown in each element. */
const shown = new WeakMap<Element, Base<Element>>();
let isWatching = false;

/**
 * Makes the content of an element what some markup says. What was there before the first time goes; after that only what differs is
 * changed, so that what is typed, the focus and the scroll position stay.
 * @param html as a loom prints it: values in it are escaped
 * @example show(document.querySelector('#list'), await loom.renderTemplate('packing-list', { items }));
 */
export function show(element: Element, html: string): void {
  if (!isWatching) watchTyping(document);
  isWatching = true;
  let base = shown.get(element);
  if (!base) {
    element.replaceChildren();
    base = baseOf(element);
    shown.set(element, base);
  }
  // Rows of a table are kept in a template, and nowhere else outside of one.
  const theirs = parseDocument(`<template>${html}</template>`).querySelector('template')!;
  const merge: Merge = { since: now(), isBackground: true, regions: new Map(), gone: [], fresh: [] };
  keepFocus(() => {
    mergeChildren(base, theirs, merge);
    removeAll(
      merge.gone.filter((one) => !base.contains(one)).map(({ live }) => live),
      [],
    );
  });
}
