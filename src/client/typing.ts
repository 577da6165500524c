/** What the visitor does to controls: which were typed in, and when. */

/** Counts events, so that “since” means something. */
let clock = 0;
const touched = new WeakMap<EventTarget, number>();
const toggled = new WeakSet<EventTarget>();

/** Begins to listen. */
export function watchTyping(root: Document): void {
  const touch = (event: Event) => {
    if (event.target) touched.set(event.target, ++clock);
  };
  root.addEventListener('input', touch, true);
  root.addEventListener('change', touch, true);
  root.addEventListener('toggle', (event) => event.target && toggled.add(event.target), true);
}

/** This moment, for `typedSince`. */
export function now(): number {
  return clock;
}

/** Whether the visitor has changed a control since then. */
export function typedSince(control: Element, moment: number): boolean {
  return (touched.get(control) ?? 0) > moment;
}

/** Whether the visitor has opened or closed this `<details>` or `<dialog>`. */
export function wasToggled(element: Element): boolean {
  return toggled.has(element);
}
