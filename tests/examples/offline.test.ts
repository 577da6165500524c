/** The example without a server: built, opened once, and opened again without a network. */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { extname, join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import axe from 'axe-core';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';

const types: Readonly<Record<string, string>> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.svg': 'image/svg+xml',
};

let server: Server;
let browser: Browser;
let context: BrowserContext;
let page: Page;
beforeAll(async () => {
  spawnSync('npx', ['vite', 'build', '--config', 'examples/offline/vite.config.ts'], {
    stdio: 'inherit',
    // Not as a test: what is built is what people get.
    env: { ...process.env, NODE_ENV: 'production' },
  });
  server = createServer((request, response) => {
    const path = request.url === '/' ? '/index.html' : request.url!;
    try {
      const body = readFileSync(join('build/offline', path));
      response.writeHead(200, { 'content-type': types[extname(path)] ?? 'text/plain' }).end(body);
    } catch {
      response.writeHead(404).end();
    }
  }).listen(0);
  browser = await openBrowser();
  context = await browser.newContext({ baseURL: `http://localhost:${(server.address() as AddressInfo).port}` });
  page = await context.newPage();
  await page.goto('/');
}, 60_000);
afterAll(async () => {
  await browser?.close();
  server?.close();
});

test('shows the tide by a partial of the harbour, and the coming days', async () => {
  expect(await page.locator('#now h2').textContent()).toBe('The tide');
  expect(await page.locator('#now .height').textContent()).toMatch(/^\d\.\d\d m and (?:rising|falling)/);
  expect(await page.locator('#tides tbody tr').count()).toBe(7);
  for (const row of await page.locator('#tides tbody tr').all())
    expect(await row.locator('td').count()).toBeLessThanOrEqual(4);
});

test('works without the network, and keeps what was packed', async () => {
  await page.locator('[name=text]').fill('<b>Binoculars</b>');
  await page.getByRole('button', { name: 'Add' }).click();
  await page.getByRole('checkbox', { name: 'Tide tables' }).check();
  await page.locator('html[data-kept]').waitFor({ timeout: 10_000 });
  server.close();
  server.closeAllConnections();
  await context.setOffline(true);
  await page.reload();
  expect(await page.getByRole('status').textContent()).toContain('You are offline');
  expect(await page.locator('#packing li label').allInnerTexts()).toContain(' <b>Binoculars</b>');
  expect(await page.getByRole('checkbox', { name: 'Tide tables' }).isChecked()).toBe(true);
  expect(await page.locator('#packing p').textContent()).toBe('1 of 6 packed');
  await page.getByRole('button', { name: 'Leave “Oilskins” at home' }).click();
  expect(await page.locator('#packing p').textContent()).toBe('1 of 5 packed');
});

test('is open to everybody', async () => {
  await page.addScriptTag({ content: axe.source });
  const problems = await page.evaluate(async () => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run();
    return violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)]);
  });
  expect(problems).toEqual([]);
});
