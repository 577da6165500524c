/** The handbook: the chapters of `docs` as a site that Zip Loom makes itself. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { addressOf } from '../support/started.ts';

let folder: string;
let server: ChildProcess;
let site: string;
let browser: Browser;
let page: Page;
const run = (...args: string[]) => spawnSync(process.execPath, args, { encoding: 'utf8' });
const loom = (...args: string[]) =>
  run(resolve('packages/zip-loom/dist/command/main.js'), ...args, '--project', join(folder, 'source'));

beforeAll(async () => {
  mkdirSync('build', { recursive: true });
  folder = mkdtempSync(resolve('build/handbook-'));
  browser = await openBrowser();
  page = await browser.newPage();
});
afterAll(async () => {
  await browser.close();
  server.kill();
  rmSync(folder, { recursive: true, force: true });
});

test('is built from every chapter without a warning, and every link leads somewhere', () => {
  const built = run('examples/handbook/build.mjs', join(folder, 'source'));
  expect([built.stdout, built.stderr]).toEqual([expect.stringMatching(/^\d\d chapters, \d{3} sections/), '']);
  expect(loom('check', '--no-types').stdout).toMatch(/^No problems in \d+ files\.\n$/);
  const { stdout, status } = loom('render', '--all', '--out', join(folder, 'site'));
  expect([stdout, status]).toEqual([expect.stringContaining('All links between them lead somewhere.'), 0]);
  const chapters = readFileSync('examples/handbook/chapters.mjs', 'utf8');
  const missing = readdirSync('docs')
    .filter((name) => name.endsWith('.md'))
    .filter((name) => !chapters.includes(`'${name.replace('.md', '')}'`));
  expect(missing).toEqual([]);
});

test('is served by its own addresses, and by no others', async () => {
  server = spawn(process.execPath, ['examples/handbook/serve.mjs', join(folder, 'site')], {
    env: { ...process.env, PORT: '0' },
  });
  site = (await addressOf(server)).replace(/\/$/, '');
  const paths = ['/', '/forms', '/reference/zip-loom', '/reference%2Fzip-loom', '/none'];
  const answers = await Promise.all(paths.map((path) => fetch(site + path)));
  expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 404, 404]);
  expect(await answers[1]!.text()).toContain('<title>Forms ·');
});

test('is searched, from the keyboard too', async () => {
  await page.goto(`${site}/forms`);
  await page.keyboard.press('/');
  await page.keyboard.type('gallery');
  await page.locator('#found a').first().waitFor();
  await page.keyboard.press('Enter');
  await page.waitForURL('**/samples**');
  await page.getByRole('combobox').fill('windjammer');
  await page.getByText('Nothing found.').waitFor();
  await page.keyboard.press('Escape');
  expect(await page.locator('#found').isVisible()).toBe(false);
});

test('goes from chapter to chapter, and fits a telephone', async () => {
  await page.setViewportSize({ width: 360, height: 740 });
  await page.goto(`${site}/start`);
  for (let chapter = 0; chapter < 60; chapter++) {
    expect([page.url(), await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([page.url(), 360]);
    expect(await page.locator('h1').count()).toBe(1);
    const next = page.locator('[rel=next]');
    if ((await next.count()) === 0) break;
    await next.click();
    await page.waitForLoadState();
  }
  expect(page.url()).toContain('/reference/');
});

test('is whole without JavaScript', async () => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const plain = await context.newPage();
  await plain.goto(`${site}/tracing`);
  expect(await plain.locator('search').isVisible()).toBe(false);
  expect(await plain.locator('.chapters [aria-current]').textContent()).toBe('Tracing');
  await context.close();
});
