/** The harbour, in a browser without JavaScript. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import axe from 'axe-core';
import { parse } from 'parse5';
import type { Browser, Page } from 'playwright-core';
import { seedRows } from '../../examples/harbour/data/seed.ts';
import { tideHeight, tideTurns } from '../../examples/harbour/data/tide.ts';
import { openBrowser } from '../support/browser.ts';
import { type OpenHarbour, openHarbour } from '../support/harbour.ts';

let browser: Browser;
let harbour: OpenHarbour;
let page: Page;

beforeAll(async () => {
  [browser, harbour] = await Promise.all([openBrowser(), openHarbour()]);
  page = await (await browser.newContext({ javaScriptEnabled: false, baseURL: harbour.address })).newPage();
});
afterAll(async () => {
  await browser?.close();
  await harbour?.close();
});

describe('the harbour', () => {
  test('home shows the tide and the latest arrivals', async () => {
    await page.goto('/');
    expect(await page.locator('.board li').count()).toBe(8);
    expect(await page.locator('.tide .height').textContent()).toMatch(
      /^\d\.\d\d m and (rising|falling), at 14:20:00\s*$/,
    );
  });

  test('berths are found by paging and by searching', async () => {
    await page.goto('/berths');
    expect(await page.locator('.count').textContent()).toBe('72 berths');
    await page.getByRole('link', { name: 'Next' }).click();
    expect(await page.locator('.card h2').first().textContent()).toBe('Berth B1');
    await page.getByLabel('Name').fill('F1');
    await page.getByRole('button', { name: 'Search' }).click();
    expect(await page.locator('.card h2').allTextContents()).toEqual([
      'Berth F1',
      'Berth F10',
      'Berth F11',
      'Berth F12',
    ]);
    expect(await page.getByLabel('Name').inputValue()).toBe('F1');
    await page.getByLabel('Name').fill('<b>&');
    await page.getByRole('button', { name: 'Search' }).click();
    expect(await page.locator('.empty').textContent()).toContain('No berth matches “<b>&”.');
  });

  test('paging links keep the search', async () => {
    await page.goto('/berths?free=on&length=8');
    const next = await page.getByRole('link', { name: 'Next' }).getAttribute('href');
    expect(new URL(next!, harbour.address).search).toBe('?free=on&length=8&page=2');
    await page.goto('/berths?page=999');
    expect(await page.locator('.pages').textContent()).toContain('Page 6 of 6');
  });

  test('a berth has its stays', async () => {
    await page.goto('/berths/3');
    expect(await page.locator('h1').textContent()).toBe('Berth A3');
    expect(await page.title()).toBe('Berth A3 · Tern Harbour');
    expect(await page.locator('tbody tr').count()).toBeGreaterThan(0);
  });

  test.each(['/nowhere', '/berths/999', '/berths/%3Cscript%3E'])('a wrong URL %s is a 404 page', async (path) => {
    const response = await page.goto(path);
    expect(response!.status()).toBe(404);
    expect(await page.locator('h1').textContent()).toBe('Page not found');
  });

  test.each(['/', '/berths', '/berths/3', '/about', '/rules', '/nowhere'])(
    '%s is well-formed HTML without left-over blank lines',
    async (path) => {
      const text = await (await fetch(harbour.address + path)).text();
      const mistakes: string[] = [];
      parse(text, { sourceCodeLocationInfo: true, onParseError: (error) => mistakes.push(error.code) });
      expect(mistakes).toEqual([]);
      expect(text).not.toMatch(/\n[\t ]*\n/);
    },
  );

  test.each([
    ['light', 1280],
    ['dark', 1280],
    ['light', 360],
  ] as const)('is accessible and fits the screen: %s at %i pixels', async (colorScheme, width) => {
    const context = await browser.newContext({
      colorScheme,
      viewport: { width, height: 800 },
      baseURL: harbour.address,
      bypassCSP: true,
    });
    const visitor = await context.newPage();
    for (const path of ['/', '/berths', '/berths/3', '/rules']) {
      await visitor.goto(path);
      await visitor.addScriptTag({ content: axe.source });
      const found = await visitor.evaluate(async () => {
        const { violations } = await (window as unknown as { axe: typeof axe }).axe.run();
        return violations.map((violation) => `${violation.id}: ${violation.nodes[0]?.html}`);
      });
      expect(found).toEqual([]);
      const overflow = await visitor.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(overflow).toBe(0);
    }
    await context.close();
  });
});

describe('the made-up data', () => {
  test('is always the same, and plausible', () => {
    const rows = seedRows();
    expect(rows).toEqual(seedRows());
    expect([rows.berths.length, rows.boats.length, rows.stays.length]).toEqual([72, 48, 160]);
    expect(new Set(rows.arrivals.map((arrival) => arrival.at.slice(0, 10))).size).toBe(30);
    for (const stay of rows.stays) {
      const others = rows.stays.filter((other) => other !== stay && other.berthId === stay.berthId);
      expect(others.some((other) => other.from < stay.until && stay.from < other.until)).toBe(false);
    }
  });

  test('the tide turns where it is highest and lowest', () => {
    for (const turn of tideTurns(new Date('2026-06-12T00:00:00Z'), 6)) {
      const around = [-600_000, 600_000].map((by) => tideHeight(new Date(turn.at.getTime() + by)));
      for (const height of around)
        expect(turn.kind === 'high' ? turn.height > height : turn.height < height).toBe(true);
    }
  });
});
