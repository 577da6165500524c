/** `zip-loom/client`: the browser’s side. No dependency, no inline script, no `eval`. */
import { type Client, startClient } from './client.ts';
import { placeLateContent } from './late.ts';
import type { StartOptions } from './start-options.ts';

export type { LoomEvents } from './events.ts';
export type { Send, Sending } from './requests.ts';
export { show } from './show.ts';
export type { StartOptions } from './start-options.ts';
export type { FailureCode, Texts } from './texts.ts';

let client: Promise<Client> | undefined;

/**
 * Starts the client, once, as soon as the page is there. Where there is no page, as on a server that loads the same modules, nothing.
 * @example start();
 */
export function start(options: StartOptions = {}): void {
  if (typeof document !== 'undefined') void started(options);
}

/**
 * Asks for a region anew, in the background.
 * @param url where from; default: the URL of the page, or that which a region with `from` was loaded from
 * @example await reload('arrivals');
 */
export async function reload(region: string, url?: string): Promise<void> {
  await (await started()).reload(region, url);
}

/**
 * Applies an answer that came by other means: the same markup that the server sends in parts.
 * @example await apply(await answer.text());
 */
export async function apply(html: string): Promise<void> {
  await (await started()).apply(html);
}

function started(options: StartOptions = {}): Promise<Client> {
  if (typeof document === 'undefined')
    return Promise.reject(new Error('There is no page here. “reload” and “apply” are for scripts in the browser.'));
  client ??= new Promise((resolve) => {
    placeLateContent();
    const begin = () => resolve(startClient(options));
    // The list of regions is at the end of the page.
    if (document.readyState === 'loading') document.addEventListener('DOMContentLoaded', begin, { once: true });
    else begin();
  });
  return client;
}
