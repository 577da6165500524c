/** What the client tells the page: events on the element concerned, bubbling. */

import type { FailureCode } from './texts.ts';

export interface LoomEvents {
  /** A request is about to be sent. Cancelable. */
  loomrequest: { url: string; region: string };
  /** New content is about to be merged. Cancelable. */
  loommerge: { region: string; content: Node };
  /** New content is in the page; without a region’s name where it is content that came late. */
  loommerged: { region: string };
  /** A request failed; what was typed is still there. */
  loomfailure: { url: string; region: string; code: FailureCode; status?: number | undefined };
}

/** Sends an event; false when somebody canceled it. */
export function send<Name extends keyof LoomEvents>(
  target: EventTarget,
  name: Name,
  detail: LoomEvents[Name],
): boolean {
  const cancelable = name === 'loomrequest' || name === 'loommerge';
  return target.dispatchEvent(new CustomEvent(name, { bubbles: true, cancelable, detail }));
}
