/** The handbook: the chapters of `docs` as a site that Zip Loom makes itself. */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';

let folder: string;
let server: Server;
let browser: Browser;
let page: Page;
const run = (...args: string[]) => spawnSync(process.execPath, args, { encoding: 'utf8' });
const loom = (...args: string[]) => run(resolve('dist/cli/main.js'), ...args, '--project', join(folder, 'source'));
const address = (path: string) => `http://localhost:${(server.address() as AddressInfo).port}${path}`;

beforeAll(async () => {
  mkdirSync('build', { recursive: true });
  folder = mkdtempSync(resolve('build/handbook-'));
  server = createServer((request, response) => {
    const { pathname } = new URL(request.url!, 'http://localhost');
    const file = join(folder, 'site', /\.\w+$/.test(pathname) ? pathname : `${pathname}/index.html`);
    const type = { '.css': 'text/css', '.js': 'text/javascript', '.json': 'application/json' }[/\.\w+$/.exec(file)![0]];
    if (!existsSync(file)) response.writeHead(404).end();
    else response.writeHead(200, { 'content-type': type ?? 'text/html' }).end(readFileSync(file));
  }).listen(0);
  browser = await openBrowser();
  page = await browser.newPage();
});
afterAll(async () => {
  await browser.close();
  server.close();
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

test('is searched, from the keyboard too', async () => {
  await page.goto(address('/forms'));
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
  await page.goto(address('/start'));
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
  await plain.goto(address('/tracing'));
  expect(await plain.locator('search').isVisible()).toBe(false);
  expect(await plain.locator('.chapters [aria-current]').textContent()).toBe('Tracing');
  await context.close();
});
