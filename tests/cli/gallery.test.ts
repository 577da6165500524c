/** `zip-loom gallery`, in a real browser. */
import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, readFileSync, symlinkSync } from 'node:fs';
import { request } from 'node:http';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { openBrowser } from '../support/browser.ts';
import { makeProject, type Project } from '../support/projects.ts';
import { addressOf } from '../support/started.ts';

let project: Project;
let browser: Browser;
beforeAll(async () => {
  project = makeProject({
    'zip-loom.config.mjs': "export default { layouts: { '**': 'site-layout' }, assets: 'public' };\n",
    'public/site.css':
      'body { min-height: 100vh; } p { color: rgb(1, 1, 1); } @media (prefers-color-scheme: dark) { p { color: rgb(250, 250, 250); } }\n',
    'templates/layouts/site-layout.html':
      '<!doctype html>\n<html lang="en">\n<head>\n<title>x</title>\n<link rel="stylesheet" href="/site.css">\n</head>\n<body>\n<slot></slot>\n</body>\n</html>\n',
    'templates/partials/berth-row.html': '<meta (takes name: string)>\n<tr><td>${name}</td></tr>\n',
    'templates/partials/berth-row.samples.json': '{ "usual": { "name": "N1" }, "long": { "name": "<b>N2</b>" } }',
    'templates/partials/without-samples.html': '<p>x</p>\n',
    'templates/pages/about.html': '<p>About the harbour</p>\n',
    'templates/pages/berths/list.html': '<meta (takes names: string[])>\n<p (for name of names)>${name}</p>\n',
    'templates/pages/berths/list.samples.json': '{ "two": { "names": ["N1", "N2"] }, "none": { "names": [] } }',
    'templates/pages/bad.html': '<meta (takes name: string)>\n<p>${name}</p>\n',
  });
  browser = await openBrowser();
});
afterAll(async () => {
  await browser.close();
  project.remove();
});

const names = (page: Page) => page.locator('nav a').allTextContents();

describe('live', () => {
  let child: ChildProcess;
  let address: string;
  let page: Page;
  beforeAll(async () => {
    child = spawn(process.execPath, [resolve('packages/zip-loom/dist/command/main.js'), 'gallery', '--port', '0'], {
      cwd: project.folder,
    });
    address = await addressOf(child);
    page = await browser.newPage();
  });
  afterAll(() => {
    child.kill();
  });

  test('lists every page, and partials with samples', async () => {
    await page.goto(address);
    expect(await names(page)).toEqual(['about', 'bad', 'berths/list', 'berth-row']);
    expect(await page.locator('.overview iframe').count()).toBe(4);
    await page.getByRole('navigation').getByText('berths/list').click();
    await page.waitForURL('**/pages/berths/list.html');
  });

  test('shows each sample at three widths', async () => {
    await page.goto(`${address}gallery/pages/berths/list.html`);
    expect(await page.locator('h2').allTextContents()).toEqual(['Pages', 'Partials', 'two', 'none']);
    expect(await page.locator('figcaption').allTextContents()).toEqual([
      '360 px',
      '768 px',
      '1280 px',
      '360 px',
      '768 px',
      '1280 px',
    ]);
    const frame = page.frameLocator('iframe >> nth=0');
    await frame.getByText('N2').waitFor();
    expect(await frame.locator('html').evaluate(() => innerWidth)).toBe(360);
    expect(
      await page
        .locator('figure >> nth=2')
        .evaluate((one) => one.querySelector('iframe')!.getBoundingClientRect().width <= one.clientWidth + 1),
    ).toBe(true);
  });

  test('colours as they are wanted, whatever the system says', async () => {
    const colour = () =>
      page
        .frameLocator('iframe >> nth=0')
        .locator('p')
        .first()
        .evaluate((one) => getComputedStyle(one).color);
    await page.getByLabel('Dark').check();
    expect(await colour()).toBe('rgb(250, 250, 250)');
    await page.emulateMedia({ colorScheme: 'dark' });
    await page.getByLabel('Light').check();
    expect(await colour()).toBe('rgb(1, 1, 1)');
    await page.getByLabel('As the system').check();
    expect(await colour()).toBe('rgb(250, 250, 250)');
  });

  test('a row is in a table, in the styles of the pages, and as high as it is', async () => {
    await page.goto(`${address}gallery/partials/berth-row.html`);
    const frame = page.frameLocator('iframe >> nth=0');
    expect(await frame.locator('table td').textContent()).toBe('N1');
    expect(await frame.locator('link[rel=stylesheet]').getAttribute('href')).toBe('/site.css');
    await page.waitForFunction(() => document.querySelector('iframe')!.offsetHeight < 200);
    expect(await page.frameLocator('iframe >> nth=3').locator('td').textContent()).toBe('<b>N2</b>');
  });

  test('what changes is shown: templates, samples, new ones, and mistakes until they are repaired', async () => {
    await page.goto(`${address}gallery/pages/about.html`);
    const frame = page.frameLocator('iframe >> nth=0');
    await frame.getByText('About the harbour').waitFor();
    project.write('templates/pages/about.html', '<p>About the boats</p>\n');
    await frame.getByText('About the boats').waitFor();
    project.write('templates/pages/about.html', '<p>${nmae}</p>\n');
    await frame.getByText('unknown-name').waitFor();
    project.write('templates/pages/about.samples.json', 'no JSON');
    await page.getByText('about.samples.json cannot be used').waitFor();
    project.write('templates/pages/about.samples.json', '{ "mine": {} }');
    await page.getByRole('heading', { name: 'mine' }).waitFor();
    project.write('templates/pages/about.html', '<p>About us</p>\n');
    await frame.getByText('About us').waitFor();
    project.write('templates/pages/new.html', '<p>New</p>\n');
    await page.getByRole('navigation').getByText('new', { exact: true }).waitFor();
  });

  test.each([
    'gallery/pages/none.html',
    'gallery/preview/pages/about/7.html',
    'gallery/preview/pages/none/0.html',
    'site.css/../../package.json',
    '..%2fpackage.json',
    '.env',
    '.git/config',
    'leads-out.txt',
    'leads-out/package.json',
    '%2eenv',
    '%E0%A4%A',
    'gallery/preview/%zz/0.html',
    'none',
  ])('%s is nothing', async (path) => {
    // Beside the files that pages name are some that no page does, and ways out.
    const assets = join(project.folder, 'public');
    project.write('public/.env', 'SECRET=1');
    project.write('public/.git/config', 'x');
    for (const [name, target] of [
      ['leads-out.txt', join(project.folder, 'package.json')],
      ['leads-out', project.folder],
    ] as const)
      if (!existsSync(join(assets, name))) symlinkSync(target, join(assets, name));
    expect((await fetch(address + path)).status).toBe(404);
  });

  test.each<[what: string, headers: Record<string, string>, status: number]>([
    ['its own name', {}, 200],
    ['a name that another site points here', { host: 'evil.test:4000' }, 403],
    ['a name that looks like it', { host: 'localhost.evil.test' }, 403],
    ['no name', { host: '' }, 403],
    ['an address of this machine', { host: '127.0.0.1:4000' }, 200],
    ['a page of another site', { origin: 'http://evil.test' }, 403],
    ['a page of nobody', { origin: 'null' }, 403],
  ])('asked by %s', async (_, headers, status) => {
    const url = new URL(`${address}gallery/index.html`);
    const given = await new Promise((resolve, reject) => {
      const options = { headers: { host: url.host, ...headers }, setHost: false };
      request(url, options, (response) => resolve(response.resume().statusCode))
        .on('error', reject)
        .end();
    });
    expect(given).toBe(status);
  });

  test('a port that is taken, and one that is none', () => {
    const { port } = new URL(address);
    expect(project.loom('gallery', '--port', port)).toMatchObject({
      status: 2,
      stderr: expect.stringContaining(`Port ${port} cannot be opened`),
    });
    expect(project.loom('gallery', '--port', 'much')).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('“much” is no port'),
    });
  });
});

test('--out writes files that can be opened from anywhere, and tells of what cannot be shown', async () => {
  const { stdout, status } = project.loom('gallery', '--out', 'shown');
  expect(status).toBe(1);
  expect(stdout).toMatch(/^pages\/bad {2}cannot be shown\n.*missing-argument/);
  expect(stdout).toMatch(/\n\d templates in shown: open index\.html\.\n$/);
  const page = await browser.newPage();
  await page.goto(pathToFileURL(join(project.folder, 'shown/index.html')).href);
  await page.getByRole('navigation').getByText('berths/list').click();
  await page.waitForURL('**/pages/berths/list.html');
  const frame = page.frameLocator('iframe >> nth=0');
  expect(
    await frame
      .locator('p')
      .first()
      .evaluate((one) => getComputedStyle(one).color),
  ).toBe('rgb(1, 1, 1)');
  expect(existsSync(join(project.folder, 'shown/files/site.css'))).toBe(true);
  expect(readFileSync(join(project.folder, 'shown/index.html'), 'utf8')).not.toContain('gallery-live');
  project.write('other/x.txt', 'mine');
  expect(project.loom('gallery', '--out', 'other').status).toBe(2);
});
