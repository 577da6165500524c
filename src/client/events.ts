/** What the client tells the page: events on the element concerned, bubbling. */

export interface LoomEvents {
  /** A request is about to be sent. Cancelable. */
  'loom:request': { url: string; region: string };
  /** New content is about to be merged. Cancelable. */
  'loom:before-update': { region: string; content: Node };
  /** New content is in the page; without a region’s name where it is content that came late. */
  'loom:updated': { region: string };
  /** A request failed; what was typed is still there. */
  'loom:failure': { url: string; region: string; reason: string };
}

/** Sends an event; false when somebody canceled it. */
export function send<Name extends keyof LoomEvents>(
  target: EventTarget,
  name: Name,
  detail: LoomEvents[Name],
): boolean {
  const cancelable = name === 'loom:request' || name === 'loom:before-update';
  return target.dispatchEvent(new CustomEvent(name, { bubbles: true, cancelable, detail }));
}
