/** Sentences for screen readers, said when they are free. The element is there from the start: many do not notice a new one. */
import { announcerId } from '../protocol/index.ts';

let announcer: HTMLElement | undefined;

/** Makes the element, out of sight. */
export function prepareAnnouncer(): void {
  announcer = document.createElement('p');
  announcer.id = announcerId;
  announcer.setAttribute('role', 'status');
  announcer.setAttribute('aria-live', 'polite');
  // Out of sight, not out of hearing; through the object model, so that no inline style is needed.
  announcer.style.cssText =
    'position:absolute;width:1px;height:1px;margin:0;overflow:hidden;clip-path:inset(50%);white-space:nowrap';
  document.body.append(announcer);
}

export function announce(text: string): void {
  if (announcer) announcer.textContent = text;
}
