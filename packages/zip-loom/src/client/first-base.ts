/**
 * The base of the page that the browser has loaded. It is copied in a quiet moment after the client has started, or when it is first
 * needed, so that the start costs nothing; what scripts and visitors have done by then is undone in the copy.
 */
import { type Base, baseOf, contentOf } from './base.ts';
import { parseDocument } from './markup.ts';

/** @returns gives the page as it was when this was called */
export function takeFirstBase(): () => Base<HTMLElement> {
  let base: Base<HTMLElement> | undefined;
  const records: MutationRecord[] = [];
  const observer = new MutationObserver((some) => {
    for (const record of some) records.push(record);
  });
  observer.observe(document, {
    subtree: true,
    childList: true,
    attributeOldValue: true,
    characterDataOldValue: true,
  });
  const take = () => {
    if (base) return base;
    for (const one of observer.takeRecords()) records.push(one);
    observer.disconnect();
    base = baseOf(document.documentElement);
    // The title comes with every answer, and scripts may count in it.
    base.querySelector('head > title')?.remove();
    undo(records, base);
    return base;
  };
  (globalThis.requestIdleCallback ?? setTimeout)(take);
  return take;
}

/** Undoes what was done to the page, the last first, in the copy of it. */
function undo(records: readonly MutationRecord[], root: Base): void {
  const bases = new Map<Node, Base>();
  const learn = (base: Base) => {
    if (base.live) bases.set(base.live, base);
    contentOf(base).childNodes.forEach(learn);
  };
  if (records.length > 0) learn(root);
  for (const record of [...records].reverse()) {
    const { type, attributeName: name, attributeNamespace, oldValue } = record;
    const base = bases.get(record.target);
    if (!base) continue;
    if (type === 'characterData') base.nodeValue = oldValue;
    else if (base instanceof Element && name !== null) {
      if (oldValue === null) base.removeAttributeNS(attributeNamespace, name);
      else giveBack(base, attributeNamespace, name, oldValue);
    }
    for (const node of record.addedNodes) (bases.get(node) as ChildNode | undefined)?.remove();
    for (const node of record.removedNodes) {
      const again = bases.get(node) ?? baseOf(node);
      const next = record.nextSibling && bases.get(record.nextSibling);
      learn(again);
      contentOf(base).insertBefore(again, next?.parentNode === contentOf(base) ? next : null);
    }
  }
}

function giveBack(base: Element, namespace: string | null, name: string, value: string): void {
  try {
    base.setAttributeNS(namespace, name, value);
  } catch {
    // A name that only a parser can make (HTML §13.2.5.33): scripts that read such attributes take them away.
    const attribute = parseDocument(`<i ${name}>`).body.firstElementChild!.attributes[0]!.cloneNode() as Attr;
    attribute.value = value;
    base.setAttributeNode(attribute);
  }
}
