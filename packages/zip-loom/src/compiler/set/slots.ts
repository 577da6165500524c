/** Which elements are slots, and whose: those of a template, or the browser’s. */
import {
  attributeOf,
  clausesOf,
  type Element,
  fixedValue,
  isCallName,
  type TemplateNode,
} from '../../language/index.ts';

/** The name of a `<slot>`: `default` where it has none. */
export function slotName(slot: Element): string {
  return fixedValue(attributeOf(slot, 'name')) || 'default';
}

/** Whether an element is a slot, as far as its name tells. */
export function isSlot(node: TemplateNode): node is Element {
  return node.kind === 'element' && isSlotElement(node);
}

/** The same, for an element. */
export function isSlotElement({ name }: Element): boolean {
  return name === 'slot';
}

/** Whether `<slot>` and `slot=` inside this element belong to the browser: a plain `<template>` or a custom element of its own. */
export function belongsToBrowser(element: Element, isBrowserElement: (name: string) => boolean): boolean {
  if (element.name === 'template') return clausesOf(element).length === 0 && attributeOf(element, 'slot') === undefined;
  return isCallName(element.name) && isBrowserElement(element.name);
}
