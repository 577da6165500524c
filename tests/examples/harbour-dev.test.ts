/** The harbour while somebody works on it: what is changed is merged into the open page, whatever kind of file it is. */
import { type ChildProcess, spawn } from 'node:child_process';
import { resolve } from 'node:path';
import { createInterface } from 'node:readline';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { type HarbourProject, makeHarbour } from '../support/harbour-project.ts';
import { freePort } from '../support/redis-server.ts';

let project: HarbourProject;
let server: ChildProcess;
let browser: Browser;
let page: Page;
beforeAll(async () => {
  project = makeHarbour();
  const port = await freePort();
  server = spawn(process.execPath, [resolve('node_modules/jiti/lib/jiti-cli.mjs'), 'examples/harbour/dev.ts'], {
    cwd: project.folder,
    // Whatever editor this machine has is not to be opened.
    env: { ...process.env, PORT: String(port), NODE_ENV: undefined, LAUNCH_EDITOR: 'true' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  for await (const line of createInterface({ input: server.stdout! })) if (line.includes('is open')) break;
  server.stdout!.resume();
  browser = await openBrowser();
  page = await browser.newPage({ baseURL: `http://localhost:${port}`, viewport: { width: 800, height: 400 } });
}, 60_000);
afterAll(async () => {
  await browser?.close();
  const gone = new Promise((resolve) => server.once('exit', resolve));
  if (server.exitCode === null && server.kill()) await gone;
  project?.remove();
});

/** Changes a file of the harbour. */
function edit(file: string, from: string, to: string): void {
  const text = project.read(file);
  expect(text).toContain(from);
  project.write(`examples/harbour/${file}`, text.replaceAll(from, to));
}

test('templates, layouts, server modules and mistakes, under the policy of the site', async () => {
  await page.goto('/sign-in');
  const field = page.locator('main input:not([type=hidden])').first();
  // The client has started when the page follows changes.
  await page.waitForFunction(() =>
    performance.getEntriesByType('resource').some(({ name }) => name.includes('vite/client')),
  );
  await page.waitForTimeout(500);
  await field.fill('half typed');
  await page.evaluate(() => Object.assign(globalThis, { isSame: true }));
  const kept = async () => [
    await field.inputValue(),
    await page.evaluate(() => [document.activeElement?.localName, 'isSame' in globalThis]),
  ];
  const asBefore = ['half typed', ['input', true]];

  edit('templates/pages/sign-in.html', '<h1>Sign in', '<h1>Come in');
  await page.waitForSelector('h1:text("Come in")');
  edit('templates/layouts/base-layout.html', '> Tern Harbour</a>', '> Tern Haven</a>');
  await page.waitForSelector('.brand:text("Tern Haven")');
  expect(await kept()).toEqual(asBefore);

  edit('templates/pages/sign-in.html', '<h1>Come in', '<h1>${nobody} Come in');
  const overlay = page.locator('vite-error-overlay');
  await overlay.waitFor();
  expect(await overlay.evaluate(({ shadowRoot }) => shadowRoot!.textContent)).toMatch(
    /There is no “nobody” here.*sign-in\.html/s,
  );
  // The policy forbids its own style sheet.
  await page.waitForFunction(
    () => document.querySelector('vite-error-overlay')!.shadowRoot!.adoptedStyleSheets.length === 1,
  );
  expect(
    await overlay.evaluate(({ shadowRoot }) => getComputedStyle(shadowRoot!.querySelector('.backdrop')!).position),
  ).toBe('fixed');
  edit('templates/pages/sign-in.html', '<h1>${nobody} Come in', '<h1>Welcome');
  await page.waitForSelector('h1:text("Welcome")');
  expect([await overlay.count(), ...(await kept())]).toEqual([0, ...asBefore]);
});

test('a change of the server’s own modules', async () => {
  await page.goto('/');
  await page.waitForSelector('.tide .height');
  await page.waitForTimeout(500);
  await page.evaluate(() => Object.assign(globalThis, { isSame: true }));
  edit('data/tide.ts', 'const meanLevel = 3.1', 'const meanLevel = 903.1');
  await page.waitForFunction(() =>
    /^90\d\.\d\d m/.test(document.querySelector<HTMLElement>('.tide .height')!.textContent),
  );
  expect(await page.evaluate(() => 'isSame' in globalThis)).toBe(true);
});

test('a change of the configuration', async () => {
  await page.goto('/');
  await page.waitForTimeout(500);
  edit('zip-loom.config.ts', "locale: 'en-GB'", "locale: 'de-DE'");
  await page.waitForFunction(() => document.documentElement.lang === 'de-DE');
  edit('zip-loom.config.ts', "locale: 'de-DE'", "locale: 'en-GB'");
  await page.waitForFunction(() => document.documentElement.lang === 'en-GB');
});

describe('the inspector', () => {
  const rows = () => page.locator('zip-loom-inspector .row');

  test('tells which template made what, keeps what is typed, and opens nothing of the page', async () => {
    await page.goto('/berths');
    await page.waitForTimeout(1000);
    await page.locator('[name=q]').fill('A1');
    await page.waitForFunction(() => document.querySelectorAll('article').length === 4);
    await page.keyboard.press('Alt+Shift+L');
    await rows().first().waitFor();
    expect(await page.locator('[name=q]').inputValue()).toBe('A1');
    expect(await rows().locator('b').allTextContents()).toEqual(
      expect.arrayContaining(['site-nav', 'berth-card', 'site-footer']),
    );
    await page.setViewportSize({ width: 1200, height: 800 });
    await page.locator('article').first().hover();
    const details = page.locator('zip-loom-inspector .details');
    await details.locator('h3').waitFor();
    const text = await details.evaluate(({ textContent }) => textContent);
    expect(text).toMatch(/partials\/berth-card\.html:1/);
    expect(text).toMatch(/pages\/berths\/list\.html:\d+/);
    expect(text).toMatch(/berth: \{ id: 1, .*name: "A1"/);
    const opened = page.waitForRequest((request) => request.url().includes('/__open-in-editor'));
    await page.locator('article').first().getByRole('link').click();
    expect(decodeURIComponent((await opened).url())).toMatch(/berth-card\.html:1$/);
    expect(new URL(page.url()).pathname).toBe('/berths');
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.documentElement.outerHTML.includes('loom-part'));
    expect(await page.locator('zip-loom-inspector').count()).toBe(0);
  });

  test('is there by the URL, and stays while regions ask for themselves', async () => {
    await page.goto('/?loom-inspect');
    await rows().nth(3).waitFor();
    expect((await rows().locator('b').allTextContents()).slice(0, 4)).toEqual([
      'home',
      'site-layout',
      'base-layout',
      'site-nav',
    ]);
    await rows().nth(3).locator('button').focus();
    const before = await page.locator('.tide .height').textContent();
    await page.waitForFunction((text) => document.querySelector('.tide .height')!.textContent !== text, before);
    await page.waitForTimeout(300);
    const focused = () => document.querySelector('zip-loom-inspector')!.shadowRoot!.activeElement?.textContent;
    expect(await page.evaluate(focused)).toBe(await rows().nth(3).locator('button').textContent());
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !location.search);
  });
});
