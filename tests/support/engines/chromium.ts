/** Chromium, by Playwright. */
import type { BrowserContext } from 'playwright-core';
import { openBrowser } from '../browser.ts';
import { callOf, type Engine, type Tab } from './tab.ts';

export async function openChromium(): Promise<Engine> {
  const browser = await openBrowser();
  return {
    name: 'chromium',
    open: async () => tabOf(await browser.newContext({ viewport: { width: 1000, height: 700 } }), true),
    close: () => browser.close(),
  };
}

async function tabOf(context: BrowserContext, isFirst: boolean): Promise<Tab> {
  const page = await context.newPage();
  return {
    goto: async (url) => void (await page.goto(url)),
    reload: async () => void (await page.reload()),
    back: () => page.evaluate('void setTimeout(() => history.back())'),
    forward: () => page.evaluate('void setTimeout(() => history.forward())'),
    url: async () => page.url(),
    run: (work, ...given) => page.evaluate(callOf(work, given)),
    click: (selector) => page.locator(selector).first().click({ timeout: 10_000 }),
    type: (text) => page.keyboard.type(text),
    press: (key) => page.keyboard.press(key),
    sibling: () => tabOf(context, false),
    close: () => (isFirst ? context.close() : page.close()),
  };
}
