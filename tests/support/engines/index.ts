/** The browsers that the client’s tests run in, behind one small interface. */
import { openChromium } from './chromium.ts';
import { openFirefox } from './firefox.ts';
import { type Engine, type EngineName, engineNames } from './tab.ts';
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
