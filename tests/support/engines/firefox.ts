/** Firefox, by Puppeteer through WebDriver BiDi. */
import puppeteer, { type BrowserContext } from 'puppeteer-core';
import { callOf, type Engine, type Tab } from './tab.ts';

export async function openFirefox(): Promise<Engine> {
  const browser = await puppeteer.launch({
    browser: 'firefox',
    executablePath: process.env['FIREFOX'] ?? '/usr/bin/firefox-esr',
    headless: true,
  });
  return {
    name: 'firefox',
    open: async () => tabOf(await browser.createBrowserContext(), true),
    close: () => browser.close(),
  };
}

async function tabOf(context: BrowserContext, isFirst: boolean): Promise<Tab> {
  const page = await context.newPage();
  await page.setViewport({ width: 1000, height: 700 });
  return {
    goto: async (url) => void (await page.goto(url)),
    // A page that came back from the browser's own cache is loaded anew without telling the driver.
    async reload() {
      await page.evaluate('isOld = true; void setTimeout(() => location.reload())');
      await page.waitForFunction("!('isOld' in globalThis) && document.readyState === 'complete'");
    },
    back: async () => void (await page.evaluate('void setTimeout(() => history.back())')),
    forward: async () => void (await page.evaluate('void setTimeout(() => history.forward())')),
    url: async () => page.url(),
    run: (work, ...given) => page.evaluate(callOf(work, given)) as never,
    click: (selector) => page.locator(selector).setTimeout(10_000).click(),
    type: (text) => page.keyboard.type(text),
    press: (key) => page.keyboard.press(key),
    sibling: () => tabOf(context, false),
    close: () => (isFirst ? context.close() : page.close()),
  };
}
