/** Files of the project that templates name: their URLs, and those that are not there. */

import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createLoom, createLoom as createNodeLoom, type LoomOptions } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';
import { render } from '../support/templates.ts';

const assets = new Map([
  ['css/site.css', '/assets/site-1a.css'],
  ['js/site.js', '/assets/site-2b.js'],
  ['img/boat.png', '/img/boat.png'],
  ['img/small boat.png', '/img/small%20boat.png'],
  ['img/marks.svg', '/img/marks-3c.svg'],
]);

describe('URLs in templates', () => {
  test.each([
    [
      'a style sheet',
      '<link rel="stylesheet" href="css/site.css">',
      '<link rel="stylesheet" href="/assets/site-1a.css">',
    ],
    ['a script', "<script async src='js/site.js'></script>", '<script async src="/assets/site-2b.js"></script>'],
    ['without quotes', '<img src=img/boat.png alt="">', '<img src="/img/boat.png" alt="">'],
    ['from a page further down', '<img src="../../img/boat.png" alt="">', '<img src="/img/boat.png" alt="">'],
    ['from here', '<img src="./img/boat.png" alt="">', '<img src="/img/boat.png" alt="">'],
    [
      'a name with a space, a query with a reference',
      '<img src="img/small%20boat.png?a=1&amp;b=2" alt="">',
      '<img src="/img/small%20boat.png?a=1&amp;b=2" alt="">',
    ],
    [
      'several candidates',
      '<img srcset="img/boat.png 1x,img/small%20boat.png 2x, /own.png 3x" alt="">',
      '<img srcset="/img/boat.png 1x,/img/small%20boat.png 2x, /own.png 3x" alt="">',
    ],
    ['a poster', '<video poster="img/boat.png"></video>', '<video poster="/img/boat.png"></video>'],
    [
      'a drawing, with its part',
      '<svg><use xlink:href="img/marks.svg#buoy"></use></svg>',
      '<svg><use xlink:href="/img/marks-3c.svg#buoy"></use></svg>',
    ],
    [
      'a style, beside a value',
      '<p style="--depth: ${depth}; background: url(img/boat.png)"></p>',
      '<p style="--depth: 3; background: url(&quot;/img/boat.png&quot;)"></p>',
    ],
    [
      'a style sheet in the page',
      '<style>a { background: url("img/boat.png") } b { background: url(/own.png) }</style>',
      '<style>a { background: url("/img/boat.png") } b { background: url(/own.png) }</style>',
    ],
    ['an expression', "${asset('img/marks.svg#buoy')}", '/img/marks-3c.svg#buoy'],
    ['an expression that would climb to another host', "${asset('..//css/site.css')}", '/assets/site-1a.css'],
    ['an expression with an address of another kind', "${asset('https://x.example/y')}", 'https://x.example/y'],
    [
      'beside a list of attributes',
      '<a href="img/boat.png" ${...{ id: 1 }}>x</a>',
      '<a href="/img/boat.png" id="1">x</a>',
    ],
  ])('%s', async (_, page, expected) => {
    const text = await render(`<meta (takes depth = 3)>\n${page}`, {}, {}, { assets });
    expect(text).toBe(expected);
  });

  test.each([
    '<a href="berths/list">x</a>',
    '<a href="/css/site.css">x</a>',
    '<a href="?css/site.css">x</a>',
    '<a href="#css/site.css">x</a>',
    '<img src="//cdn.example/css/site.css" alt="">',
    '<img src="data:image/gif;base64,R0lGODlhAQABAAAAACw=" alt="">',
    '<p title="css/site.css" data-src="css/site.css"></p>',
    '<img src="%zz/css" alt="">',
    '<script>const path = "css/site.css";</script>',
  ])('%s stays as it is', async (page) => {
    expect(await render(page, {}, {}, { assets })).toBe(page);
  });

  test('what is placed into the head is taken once, with its URL and the nonce of the request', async () => {
    const loom = await createLoom({
      assets,
      layouts: { '**': 'site-layout' },
      sources: {
        'layouts/site-layout.html': '<head>\n    <slot name="head"></slot></head><slot></slot>',
        'partials/berth-card.html':
          '<link (into head) rel="stylesheet" href="css/site.css"><script (into head) src="js/site.js"></script><b>x</b>',
        'pages/page.html': '<berth-card></berth-card><berth-card></berth-card>',
      },
    });
    expect(await loom.render('page', {}, { context: { nonce: 'N' } })).toBe(
      '<head>\n    <link rel="stylesheet" href="/assets/site-1a.css" nonce="N">\n    <script src="/assets/site-2b.js" nonce="N"></script></head><b>x</b><b>x</b>',
    );
  });
});

describe('files that are not there', () => {
  const sources = (page: string) => ({ 'pages/page.html': page });

  test.each([
    ['<link rel="stylesheet" href="css/sites.css">', 'Did you mean “css/site.css”?'],
    ['<link rel="icon" href="icon.svg">', undefined],
    ['<script src="site.js"></script>', undefined],
    ['<img src="img/none.png" alt="">', undefined],
    ['<img srcset="/img/boat.png 1x, img/none.png 2x" alt="">', undefined],
    ['<p style="background: url(img/none.png)"></p>', undefined],
    ['<style>p { background: url(img/none.png) }</style>', undefined],
    ["<p>${asset('img/none.png')}</p>", undefined],
  ])('%s is found by a check, and the page is rendered all the same', async (page, hint) => {
    const logger = quietLogger;
    const loom = await createLoom({ sources: sources(page), assets, logger });
    const { errors, warnings } = loom.check();
    const [error, ...others] = [...errors, ...warnings];
    expect([error?.code, others]).toEqual(['missing-asset', []]);
    if (hint) expect(error?.hint).toBe(hint);
    if (!page.includes('asset(')) expect(await loom.render('page')).toBe(page);
  });

  test('without assets in the configuration nothing is looked for', async () => {
    const page = '<img src="img/none.png" alt="">${asset("img/none.png")}';
    const loom = await createLoom({ sources: sources(page) });
    expect([loom.check(), await loom.render('page')]).toEqual([
      { errors: [], warnings: [] },
      '<img src="img/none.png" alt="">/img/none.png',
    ]);
  });

  test('an expression: an error in development, a line in the log for visitors', async () => {
    const page = '<meta (takes name)>\n${asset(name)}';
    const noted: string[] = [];
    const logger = { warn: (details: object) => noted.push((details as { code: string }).code), error: () => {} };
    const options = { sources: sources(page), assets, logger } satisfies LoomOptions;
    const development = await createLoom({ ...options, mode: 'development' });
    expect(() => development.renderSync('page', { name: 'no.png' })).toThrow('There is no asset “no.png”.');
    const production = await createLoom(options);
    expect([production.renderSync('page', { name: 'no.png' }), noted]).toEqual(['/no.png', ['missing-asset']]);
  });
});

describe('folders and manifests', () => {
  let folder: string;
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'zip-loom-assets-'));
    mkdirSync(join(folder, 'public/img'), { recursive: true });
    writeFileSync(join(folder, 'public/img/ü.png'), '');
    writeFileSync(
      join(folder, 'manifest.json'),
      JSON.stringify({
        'client.ts': { file: 'assets/client-9f.js' },
        'styles/site.css': { file: 'assets/site-8e.css' },
      }),
    );
  });
  afterAll(() => rmSync(folder, { recursive: true }));
  const page =
    '<link rel="stylesheet" href="styles/site.css"><script src="client.ts"></script><img src="img/ü.png" alt="">';

  test('a folder and a manifest together, under a base path', async () => {
    const loom = await createNodeLoom({
      sources: { 'pages/page.html': page },
      assets: { folder: join(folder, 'public'), manifest: join(folder, 'manifest.json'), prefix: '/tern/' },
    });
    expect([loom.check(), await loom.render('page')]).toEqual([
      { errors: [], warnings: [] },
      '<link rel="stylesheet" href="/tern/assets/site-8e.css"><script src="/tern/assets/client-9f.js"></script><img src="/tern/img/%C3%BC.png" alt="">',
    ]);
  });

  test('in development a file that is added is found at the next page', async () => {
    const loom = await createNodeLoom({
      sources: { 'pages/page.html': '<img src="img/new.png" alt="">' },
      assets: join(folder, 'public'),
      mode: 'development',
    });
    expect(await loom.render('page')).toBe('<img src="img/new.png" alt="">');
    writeFileSync(join(folder, 'public/img/new.png'), '');
    expect(await loom.render('page')).toBe('<img src="/img/new.png" alt="">');
  });

  test.each([
    [{ folder: 'no-such-folder' }, /assets folder .*no-such-folder cannot be read \(ENOENT\)/],
    [{ manifest: 'no-such-manifest.json' }, /no-such-manifest\.json cannot be read \(ENOENT\)/],
    [{ manifest: 'README.md' }, /README\.md cannot be read \(it is not JSON\)/],
  ])('%j is an error that says so', async (options, message) => {
    await expect(createNodeLoom({ sources: { 'pages/page.html': 'x' }, assets: options })).rejects.toThrow(message);
  });
});
