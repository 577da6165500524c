/** How far files have come: a bar in their form, a button that calls them off, and sentences for screen readers. */
import { announcerId, cancelAttribute, progressAttribute } from '../protocol/index.ts';
import { textOf } from './texts.ts';

export interface ProgressView {
  /** @param part from 0 to 1 */
  show(part: number): void;
  close(isCancelled: boolean): void;
}

/** What is said aloud is said at each of these. */
const steps = 4;

/**
 * Shows the elements that a form has for it, or makes them.
 * @param cancel called when the visitor calls the files off
 */
export function openView(form: HTMLFormElement, cancel: () => void): ProgressView {
  const own = form.querySelector<HTMLElement>(`progress[${progressAttribute}]`);
  const made = own ? undefined : makeElements();
  const bar = (own ?? made?.bar) as HTMLProgressElement;
  const button = form.querySelector<HTMLElement>(`[${cancelAttribute}]`) ?? made?.button;
  if (made) form.append(made.box);
  for (const element of [bar, button]) if (element) element.hidden = false;
  bar.max = 1;
  bar.value = 0;
  if (!bar.labels?.length && !bar.hasAttribute('aria-label')) bar.setAttribute('aria-label', textOf('sending'));
  button?.addEventListener('click', cancel);
  let said = 0;
  return {
    show(part) {
      bar.value = part;
      // When all is sent, the server may have taken it already.
      if (part === 1 && button) button.hidden = true;
      const step = Math.floor(part * steps);
      if (step > said) announce(textOf('sent', Math.round((step / steps) * 100)));
      said = Math.max(said, step);
    },
    close(isCancelled) {
      button?.removeEventListener('click', cancel);
      made?.box.remove();
      for (const element of [bar, button]) if (element) element.hidden = true;
      if (isCancelled) announce(textOf('cancelled'));
    },
  };
}

function makeElements() {
  const box = document.createElement('p');
  const bar = document.createElement('progress');
  const button = document.createElement('button');
  box.className = 'loom-progress';
  button.type = 'button';
  button.textContent = textOf('cancel');
  box.append(bar, ' ', button);
  return { box, bar, button };
}

/** The client’s own element, which screen readers know from the start. */
function announce(text: string): void {
  const announcer = document.getElementById(announcerId);
  if (announcer) announcer.textContent = text;
}
