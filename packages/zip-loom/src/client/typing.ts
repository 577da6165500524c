/** What the visitor does: which controls were typed in, and when; what was scrolled. */

/** Counts events, so that “since” means something. */
let clock = 0;
const touched = new WeakMap<EventTarget, number>();

/** Elements that were scrolled. */
const scrolled = new Set<Element>();

/** Begins to listen. */
export function watchTyping(root: Document): void {
  const touch = ({ target }: Event) => {
    if (!target) return;
    touched.set(target, ++clock);
    // A choice among several is one choice.
    if (target instanceof HTMLInputElement && target.type === 'radio')
      for (const one of root.getElementsByName(target.name)) touched.set(one, clock);
  };
  root.addEventListener('input', touch, true);
  root.addEventListener('change', touch, true);
  root.addEventListener('scroll', ({ target }) => target instanceof Element && scrolled.add(target), true);
}

/** This moment, for `typedSince`. */
export function now(): number {
  return clock;
}

/** Whether the visitor has changed a control since then. */
export function typedSince(control: Element, moment: number): boolean {
  return (touched.get(control) ?? 0) > moment;
}

/** Remembers how far what is in a node is scrolled; the result scrolls it there again. */
export function keepScroll(node: Node): () => void {
  const again: Array<() => void> = [];
  for (const element of scrolled) {
    const { scrollLeft, scrollTop } = element;
    if (!element.isConnected) scrolled.delete(element);
    else if (node.contains(element)) again.push(() => element.scrollTo(scrollLeft, scrollTop));
  }
  return () => again.forEach((one) => void one());
}
