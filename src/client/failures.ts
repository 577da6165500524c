/** What a visitor sees when a request failed: the region’s own element, or a short message. What was typed stays. */
import { onFailureAttribute } from '../protocol/index.ts';
import { send } from './events.ts';

/** Shows the failure. `again` is offered where asking again does no harm. */
export function showFailure(
  region: HTMLElement | undefined,
  details: { url: string; name: string; reason: string },
  again: (() => void) | undefined,
): void {
  send(region ?? document.body, 'loom:failure', { url: details.url, region: details.name, reason: details.reason });
  hideFailure(region);
  const own = region?.querySelector<HTMLElement>(`[${onFailureAttribute}]`);
  if (own) {
    own.hidden = false;
    return;
  }
  const message = document.createElement('p');
  message.className = 'loom-failure';
  message.setAttribute('role', 'status');
  message.textContent = `${details.reason} Nothing that you typed is lost. `;
  if (again) {
    const button = document.createElement('button');
    button.type = 'button';
    button.textContent = 'Try again';
    button.addEventListener('click', () => {
      message.remove();
      again();
    });
    message.append(button);
  }
  (region ?? document.body).prepend(message);
}

/** Takes an earlier failure away. */
export function hideFailure(region: HTMLElement | undefined): void {
  const scope = region ?? document.body;
  scope.querySelector(':scope > .loom-failure')?.remove();
  const own = scope.querySelector<HTMLElement>(`[${onFailureAttribute}]`);
  if (own) own.hidden = true;
}
