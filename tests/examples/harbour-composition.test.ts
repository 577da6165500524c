/** How the harbour’s pages are put together: layouts on one base, slow weather, one table for two pages, a tree of comments. */
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import axe from 'axe-core';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { type OpenHarbour, openHarbour } from '../support/harbour.ts';

let browser: Browser;
let harbour: OpenHarbour;
let page: Page;
let problems: string[];

beforeAll(async () => {
  [browser, harbour] = await Promise.all([openBrowser(), openHarbour({ weatherDelay: 400 })]);
});
afterAll(async () => {
  await browser?.close();
  await harbour?.close();
});
beforeEach(() => {
  problems = [];
});
afterEach(async () => {
  expect(problems).toEqual([]);
  await page.context().close();
});

async function open(path: string, javaScriptEnabled = true): Promise<void> {
  page = await (await browser.newContext({ baseURL: harbour.address, javaScriptEnabled })).newPage();
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
  await page.goto(path);
}

async function signIn(email: string): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('low-water');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/');
}

const text = async (selector: string) =>
  ((await page.locator(selector).textContent()) ?? '').replace(/\s+/g, ' ').trim();

describe('the weather', () => {
  test('comes in its place to a first visitor and to one without scripts', async () => {
    await open('/', false);
    expect(await text('.weather')).toMatch(/^The weather Force \d [a-z ]+, from the [a-z-]+ Air ?\d/);
    expect(await page.locator('.waiting, template[data-loom-late]').count()).toBe(0);
  });

  test('comes late to a visitor whose client is known, and the arrivals do not wait for it', async () => {
    await open('/');
    await page.waitForFunction(() => document.cookie.includes('loom-client'));
    // Seen by the page itself: on a busy machine it is gone before anybody asks from outside.
    await page.addInitScript(() => {
      new MutationObserver(() => {
        if (!document.querySelector('.waiting')) return;
        document.documentElement.dataset['arrivals'] = String(document.querySelectorAll('.board li').length);
      }).observe(document, { childList: true, subtree: true });
    });
    await page.goto('/');
    await page.locator('.weather .wind').waitFor();
    expect(await page.evaluate(() => document.documentElement.dataset['arrivals'])).toBe('8');
    expect(await page.locator('.waiting, template[data-loom-late]').count()).toBe(0);
    // The tide goes on by itself, and asks no station.
    const shown = await text('.tide .height');
    harbour.advance(60_000);
    await page.waitForFunction((before) => document.querySelector('.tide .height')?.textContent !== before, shown);
  });
});

describe('the harbour office', () => {
  test('has a layout of its own on the site’s base, and a page adds to its sidebar', async () => {
    await open('/');
    await signIn('esme@tern.example');
    await page.getByRole('link', { name: 'Office' }).click();
    await page.waitForURL('**/staff');
    await page.locator('aside').waitFor();
    expect(await page.locator('aside a').allTextContents()).toEqual(['Today', 'Stays', 'Import']);
    expect(await text('aside .note')).toMatch(/^\d+ stays are waiting for an answer\.$/);
    expect([await page.title(), await page.locator('nav[aria-label=Main] a').count()]).toEqual([
      'Harbour office · Tern Harbour',
      6,
    ]);
    await page.getByRole('link', { name: 'Stays' }).click();
    await page.waitForURL('**/staff/stays');
    await page.getByRole('heading', { name: 'Stays', level: 1 }).waitFor();
    expect([await page.title(), await page.locator('aside .note').count()]).toEqual([
      'Stays · Harbour office · Tern Harbour',
      0,
    ]);
  });

  test('a stay is refused in its row, and everything else stays', async () => {
    await open('/');
    await signIn('esme@tern.example');
    await page.goto('/staff/stays');
    await page.waitForFunction(() => history.state !== null);
    const heading = await page.locator('h1').elementHandle();
    const row = page.locator('tbody tr').filter({ hasText: 'accepted' }).first();
    const boat = await row.locator('td').first().textContent();
    const id = await row.getAttribute('data-loom-region');
    await row.getByRole('button', { name: 'Refuse' }).click();
    await page.getByText(`${boat} is refused.`).waitFor();
    expect(await page.locator(`[data-loom-region=${id}] .status`).textContent()).toBe('refused');
    expect(await heading?.evaluate((element) => element.isConnected)).toBe(true);
  });

  test('is not there for others', async () => {
    await open('/staff');
    expect(new URL(page.url()).pathname).toBe('/sign-in');
    await signIn('hal@tern.example');
    const response = await page.goto('/staff');
    expect([response?.status(), await page.locator('h1').textContent()]).toEqual([404, 'Page not found']);
    problems = problems.filter((problem) => !problem.includes('404'));
  });
});

test('comments are as a tree', async () => {
  await open('/berths/6');
  const depths = await page
    .locator('.comments article')
    .evaluateAll((articles) =>
      articles.map(
        (one) =>
          `${one.parentElement?.closest('.comments .comments .comments') ? 3 : one.parentElement?.closest('.comments .comments') ? 2 : 1}`,
      ),
    );
  expect(new Set(depths)).toEqual(new Set(['1', '2', '3']));
});

test.each(['/', '/staff', '/staff/stays', '/berths/6'])('%s is accessible and fits a small screen', async (path) => {
  await open('/');
  await signIn('esme@tern.example');
  await page.setViewportSize({ width: 360, height: 800 });
  await page.goto(path);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await page.evaluate(axe.source);
  const found = await page.evaluate(() => (globalThis as unknown as { axe: typeof axe }).axe.run());
  expect(found.violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html).join()}`)).toEqual([]);
});
