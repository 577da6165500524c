/** The policy of a page: as narrow as what the page really uses. */

import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser } from 'playwright-core';
import { createLoom, LoomError, type LoomOptions, trustedURL } from 'zip-loom';
import { openBrowser } from '../support/browser.ts';
import { openPagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

/** The directives of a page, nonces left out. */
async function policyOf(
  page: string,
  options: LoomOptions = {},
  data: object = {},
): Promise<{ header: string; directives: Record<string, string>; response: Response; text: string }> {
  const loom = await createLoom({
    policy: 'strict',
    secret,
    logger: quietLogger,
    sources: { 'pages/page.html': page },
    ...options,
  });
  const response = await loom.respond(new Request('http://harbour.test/x'), 'page', data);
  const header = response.headers.get('content-security-policy') ?? '';
  const directives = Object.fromEntries(
    header.split('; ').map((directive) => {
      const [name = '', ...sources] = directive.split(' ');
      return [
        name,
        sources
          .join(' ')
          .replace(/'nonce-[\w-]+'/, 'nonce')
          .replace(/'sha256-[^']+'/g, 'hash'),
      ];
    }),
  );
  return { header, directives, response, text: await response.text() };
}

const none = {
  'default-src': "'none'",
  'object-src': "'none'",
  'form-action': "'none'",
  'base-uri': "'none'",
  'frame-ancestors': "'none'",
  'require-trusted-types-for': "'script'",
  'trusted-types': 'zip-loom',
};
const styles = { 'img-src': "'self' data:", 'font-src': "'self'" };

describe('the header', () => {
  test('lets forms lead to this site alone, flash messages too', async () => {
    const { directives } = await policyOf('<meta (takes u?)><flash-messages></flash-messages>');
    expect(directives['form-action']).toBe("'self'");
    // Only the URL that was looked at when the message was made: any other may lead elsewhere.
    for (const action of ['${message.text}', '${context.url.href}', '${message.action.url}${message.text}']) {
      const own = `<template (for message of context.flash)><form method="post" action="${action}"></form></template>`;
      const other = await policyOf('<flash-messages></flash-messages>', {
        sources: { 'pages/page.html': '<flash-messages></flash-messages>', 'partials/flash-messages.html': own },
      });
      expect([action, other.directives['form-action']]).toEqual([action, "'self' https: http:"]);
    }
    const named = await policyOf(
      '<meta (takes u = { action: { url: "/x" } })><form method="post" action="${u.action.url}"></form>',
    );
    expect(named.directives['form-action']).toBe("'self' https: http:");
  });

  test.each<[name: string, page: string, more: Record<string, string>]>([
    ['nothing', '<p>x</p>', {}],
    ['a script of the site', '<script src="/a.js"></script>', { 'script-src': "'self'", 'connect-src': "'self'" }],
    [
      'one of another',
      '<script src="https://cdn.test/a.js"></script>',
      { 'script-src': 'https://cdn.test', 'connect-src': "'self'" },
    ],
    [
      'one of a folder',
      '<meta (takes a = "x")><script src="/js/${a}.js"></script>',
      { 'script-src': "'self'", 'connect-src': "'self'" },
    ],
    ['a script in the page', '<script>let a;\r\n</script>', { 'script-src': 'hash', 'connect-src': "'self'" }],
    ['data', '<script type="application/json">[1]</script>', {}],
    [
      'an import map',
      '<script type="importmap">{"imports": {}}</script>',
      { 'script-src': 'hash', 'connect-src': "'self'" },
    ],
    ['a handler', '<p onclick="f()">x</p>', { 'script-src-attr': "'unsafe-hashes' hash" }],
    ['a style sheet', '<link rel="stylesheet" href="/a.css">', { ...styles, 'style-src': "'self'" }],
    ['a style in the page', '<style>a{}</style>', { ...styles, 'style-src': 'hash' }],
    [
      'what a style names',
      '<style>@import "https://b.test/x.css"; a{background:url(https://a.test/x.png)}</style>',
      {
        'style-src': 'https://b.test hash',
        'img-src': "https://a.test 'self' data:",
        'font-src': "https://a.test 'self'",
      },
    ],
    ['a fixed style of an element', '<p style="color: red">x</p>', { 'style-src-attr': "'unsafe-hashes' hash" }],
    ['a style with a value', '<meta (takes a = 1)><p style="--a: ${a}">x</p>', { 'style-src-attr': "'unsafe-inline'" }],
    [
      'images',
      '<img src="/a.png"><img srcset="https://a.test/x.png 1x, b.png 2x"><img src="data:image/png;base64,AA">',
      {
        'img-src': "'self' https://a.test data:",
      },
    ],
    ['images that a value names', '<meta (takes a = "x")><img src=${a}>', { 'img-src': "'self' https: http: data:" }],
    ['images of a folder', '<meta (takes a = "x")><img src="/photos/${a}.png">', { 'img-src': "'self'" }],
    ['media', '<video src="/a.mp4" poster="/a.png"></video>', { 'media-src': "'self'", 'img-src': "'self'" }],
    ['a frame of another site', '<iframe src="https://map.test/x"></iframe>', { 'frame-src': 'https://map.test' }],
    ['a frame of this site', '<iframe src="/x"></iframe>', { 'frame-src': "'self'", 'frame-ancestors': "'self'" }],
    ['a plugin', '<object data="/x.svg"></object>', { 'object-src': "'self'" }],
    [
      'a form',
      '<form><button formaction="https://pay.test/x">x</button></form>',
      { 'form-action': "'self' https://pay.test" },
    ],
    [
      'a base',
      '<base href="https://cdn.test/"><img src="a.png">',
      { 'base-uri': 'https://cdn.test', 'img-src': "'self' https://cdn.test" },
    ],
    [
      'icons and manifests',
      '<link rel="icon" href="/i.svg"><link rel="manifest" href="/m.json">',
      { 'img-src': "'self'", 'manifest-src': "'self'" },
    ],
    [
      'what is loaded early',
      '<link rel="preload" as="font" href="/f.woff2"><link rel="modulepreload" href="/m.js">',
      { 'font-src': "'self'", 'script-src': "'self'", 'connect-src': "'self'" },
    ],
    [
      'a drawing',
      '<svg><image href="https://a.test/x.png"></image><style>a{}</style></svg>',
      { 'img-src': "https://a.test 'self' data:", 'style-src': 'hash', 'font-src': "'self'" },
    ],
  ])('%s', async (_name, page, more) => {
    expect((await policyOf(page)).directives).toEqual({ ...none, ...more });
  });

  test('covers what layouts, partials and fills bring, and no more', async () => {
    const sources = {
      'pages/page.html': '<meta (layout site-layout)><x-y><img src="https://fill.test/a.png"></x-y>',
      'pages/other.html': '<img src="https://other.test/a.png">',
      'layouts/site-layout.html':
        '<!doctype html><html><head><slot name="head"></slot></head><body><slot></slot></body></html>',
      'partials/x-y.html': '<script src="https://part.test/a.js" (into head)></script><p><slot></slot></p>',
    };
    const { directives } = await policyOf('', { sources });
    expect(directives).toMatchObject({ 'img-src': 'https://fill.test', 'script-src': 'https://part.test' });
  });

  test('a page that is a visitor’s alone has a nonce, a new one each time, and is not kept', async () => {
    const page =
      '<form method="post"></form><script src="/a.js"></script><style>a{}</style><svg><style>b{}</style></svg>';
    const [one, two] = [await policyOf(page), await policyOf(page)];
    expect(one.directives).toMatchObject({ 'script-src': 'nonce', 'style-src': 'nonce' });
    const nonce = /'nonce-([\w-]{22})'/.exec(one.header)?.[1];
    expect(one.text.match(new RegExp(` nonce="${nonce}"`, 'g'))).toHaveLength(3);
    expect(one.header).not.toBe(two.header);
    expect(one.response.headers.get('cache-control')).toBe('private, no-store');
    const plain = await policyOf('<script src="/a.js"></script>');
    expect([plain.text.includes('nonce'), plain.response.headers.get('cache-control')]).toEqual([false, null]);
  });

  test('code whose URL is only known later has a nonce too', async () => {
    const page = '<meta (takes a)><script src=${a}></script>';
    const { directives, text } = await policyOf(page, {}, { a: trustedURL('https://x.test/a.js') });
    expect(directives['script-src']).toBe('nonce');
    expect(text).toMatch(/nonce="[\w-]{22}"/);
  });

  test('comes with headers for types and referrers', async () => {
    const { response } = await policyOf('x');
    expect(response.headers.get('x-content-type-options')).toBe('nosniff');
    expect(response.headers.get('referrer-policy')).toBe('strict-origin-when-cross-origin');
  });

  test('more may be allowed, or only reported; a handler’s own stays', async () => {
    const add = { 'connect-src': ['wss://tides.test'], 'form-action': "'self'", 'report-to': 'reports' };
    const { directives } = await policyOf('<script src="/a.js"></script>', { policy: { add } });
    expect(directives).toMatchObject({
      'connect-src': "'self' wss://tides.test",
      'form-action': "'self'",
      'report-to': 'reports',
    });
    const loom = await createLoom({ policy: { reportOnly: true }, sources: { 'pages/page.html': 'x' } });
    const headersOf = async (headers: Record<string, string>) =>
      (await loom.respond(new Request('http://harbour.test'), 'page', {}, { headers })).headers;
    expect((await headersOf({})).get('content-security-policy-report-only')).toContain("default-src 'none'");
    expect((await headersOf({})).get('content-security-policy')).toBeNull();
    const own = { 'content-security-policy-report-only': 'mine', 'referrer-policy': 'no-referrer' };
    const kept = await headersOf(own);
    expect([kept.get('content-security-policy-report-only'), kept.get('referrer-policy')]).toEqual([
      'mine',
      'no-referrer',
    ]);
  });

  test('without the option there is none', async () => {
    const loom = await createLoom({ secret, sources: { 'pages/page.html': '<form method="post"></form>' } });
    const { headers } = await loom.respond(new Request('http://harbour.test/'), 'page');
    expect([headers.get('content-security-policy'), headers.get('x-content-type-options')]).toEqual([null, null]);
  });

  test.each([{ 'img-src': 'a;b' }, { 'img-src': ['a, b'] }, { 'img src': 'a' }])('%j is refused', async (add) => {
    await expect(createLoom({ policy: { add }, sources: { 'pages/page.html': 'x' } })).rejects.toThrow(LoomError);
  });
});

describe('in Chromium', () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await openBrowser();
  });
  afterAll(() => browser?.close());

  test.each<[string, string, object]>([
    ['hashes', '<p style="color: red" onclick="ran.push(4)">x</p>', {}],
    ['nonces', '<form method="post"></form><p style="color: red" onclick="ran.push(4)">x</p>', {}],
  ])('what is written in a template runs, and nothing else: by %s', async (_name, more) => {
    const page = `<meta (takes evil)><!doctype html><html><head><script>window.ran = [];\r\nran.push(1);</script><style>b { color: red }</style></head><body>
      <b>x</b>${more}<svg><script>ran.push(2 &lt; 3 ? 2 : 0)</script></svg><script type="module">ran.push(3);</script>\${evil}</body></html>`;
    const loom = await createLoom({
      policy: 'strict',
      secret,
      logger: quietLogger,
      sources: { 'pages/page.html': page },
    });
    const { trustedHTML } = await import('zip-loom');
    const evil = trustedHTML(
      '<script>ran.push("evil")</script><img src="https://evil.test/x.png" onerror="ran.push(5)"><i style="color: blue">y</i>',
    );
    const server = await openPagesServer((request) => loom.respond(request, 'page', { evil }), { policy: false });
    const tab = await browser.newPage();
    await tab.goto(server.address);
    await tab.click('p');
    const ran = await tab.evaluate(() => (window as unknown as { ran: unknown[] }).ran);
    const color = (selector: string) =>
      tab.evaluate((one) => getComputedStyle(document.querySelector(one)!).color, selector);
    expect(ran).toEqual([1, 2, 3, 4]);
    expect([await color('p'), await color('b'), await color('i')]).toEqual([
      'rgb(255, 0, 0)',
      'rgb(255, 0, 0)',
      'rgb(0, 0, 0)',
    ]);
    await tab.close();
    await server.close();
  });
});
