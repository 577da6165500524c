/** The browsers that the client’s tests run in, behind one small interface. */
import { openChromium } from './chromium.ts';
import { openFirefox } from './firefox.ts';
import { type Engine, type EngineName, engineNames, type Tab, until } from './tab.ts';
import { openWebKit } from './webkit.ts';

export { type Engine, type EngineName, type Tab, until, untilText } from './tab.ts';

const openers: Record<EngineName, () => Promise<Engine>> = {
  chromium: openChromium,
  firefox: openFirefox,
  webkit: openWebKit,
};

/** Starts a browser; the caller closes it. */
export function openEngine(name: EngineName): Promise<Engine> {
  return openers[name]();
}

const isEverywhere = process.env['ENGINES'] === 'all';

/** Where the model and merges are tested. */
export const allEngines: readonly EngineName[] = engineNames;

/** Where everything else is: `npm run engines` asks for all. */
export const engines: readonly EngineName[] = isEverywhere ? engineNames : ['chromium'];

/** Goes to a page of the client’s and waits until it has begun. */
export async function openWithClient(tab: Tab, url: string): Promise<void> {
  await tab.goto(url);
  await until(tab, () => document.querySelector('#loom-announcer') !== null);
  await markWindow(tab);
}

/** That a page was not loaded anew is seen by what stays in its window. */
export function markWindow(tab: Tab): Promise<void> {
  return tab.run(() => void Object.assign(globalThis, { isSame: true }));
}

/** Whether the page is still the one that was marked. */
export function isSameWindow(tab: Tab): Promise<boolean> {
  return tab.run(() => 'isSame' in globalThis);
}
