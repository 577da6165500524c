/** Late content in Chromium, from a server that sends each part when a test says so; with scripts and without. */

import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { createLoom, type Loom } from 'zip-loom';
import { openBrowser } from '../support/browser.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger } from '../support/settings.ts';

const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>T</title><script type="module" async src="/client.js"></script></head><body><main><slot></slot></main></body></html>',
  'pages/section.html':
    '<meta (takes a)><h1>Before</h1><section id="place" (await x = a)>${x}</section><p (meanwhile) id="asking">Asking</p><p (catch error)>No: ${error.message}</p><h2>After</h2>',
  'pages/two.html':
    '<meta (takes a, b)><ul><li (await x = a)>${x}</li><li (meanwhile)>A</li><li (await y = b)>${y}</li><li (meanwhile)>B</li></ul>',
  'pages/row.html':
    '<meta (takes a)><table><tbody><tr><td>first</td></tr><tr (await x = a)><td>${x}</td></tr><tr (meanwhile)><td>…</td></tr><tr><td>last</td></tr></tbody></table>',
  'pages/group.html':
    '<meta (takes a)><table><template (await rows = a)><tr (for row of rows)><td>${row}</td></tr></template><tr (meanwhile)><td>…</td></tr></table>',
  'pages/text.html':
    '<meta (takes a)><p>Wind <template (await x = a)>${x}</template><template (meanwhile)>?</template> knots</p>',
  'pages/drawing.html':
    '<meta (takes a)><svg viewBox="0 0 10 10"><circle (await r = a) r=${r}></circle><text (meanwhile)>…</text></svg>',
  'pages/region.html':
    '<meta (takes a, n)><section (region box)><b id="n">${n}</b><a href="/?n=2">next</a><i (await x = a)>${x}</i><i (meanwhile)>…</i></section>',
  'pages/forged.html':
    '<meta (takes a, text)><p (await x = a)>${x}</p><p (meanwhile)>…</p><div id="comment">${trustedHTML(text)}</div>',
};

let browser: Browser;
let server: PagesServer;
let loom: Loom;
let page: Page;
let address: string;
let answer: (request: Request) => Promise<Response>;
let problems: string[];

/** A promise that a test keeps when it likes. */
function gate<T>() {
  let open!: (value: T) => void;
  let fail!: (error: Error) => void;
  const promise = new Promise<T>((resolve, reject) => {
    open = resolve;
    fail = reject;
  });
  return { promise, open, fail };
}

beforeAll(async () => {
  browser = await openBrowser();
  loom = await createLoom({ sources, layouts: { '**': 'site-layout' }, logger: quietLogger });
  server = await openPagesServer((request) => answer(request));
  ({ address } = server);
});
afterAll(async () => {
  await browser?.close();
  await server?.close();
});
beforeEach(() => {
  problems = [];
});
afterEach(async () => {
  expect(problems).toEqual([]);
  await page.context().close();
});

/** A browser that has been here before, so that the server knows of its client. */
async function openPage(javaScriptEnabled = true): Promise<void> {
  const context = await browser.newContext({ baseURL: address, javaScriptEnabled });
  await context.addCookies([{ name: 'loom-client', value: '1', url: address }]);
  page = await context.newPage();
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
}

const show = (name: string, data: object) => async (request: Request) => loom.respond(request, name, data);
const html = (selector: string) => page.locator(selector).innerHTML();

describe('with the client', () => {
  beforeEach(() => openPage());

  test('the page is at once, and the content is put in place while the page is still coming', async () => {
    const [first, second] = [gate<string>(), gate<string>()];
    answer = show('two', { a: first.promise, b: second.promise });
    const loaded = page.goto('/');
    await page.getByText('B', { exact: true }).waitFor();
    second.open('second');
    await page.getByText('second').waitFor();
    expect([await html('ul'), await page.evaluate(() => document.readyState)]).toEqual([
      expect.stringMatching(/^<!--late \S+-1--><li>A<\/li><!--\/late \S+-1--><li>second<\/li>$/),
      'loading',
    ]);
    first.open('first');
    await loaded;
    expect(await html('ul')).toBe('<li>first</li><li>second</li>');
    expect(await page.locator('template[data-loom-late]').count()).toBe(0);
  });

  test('a failure takes the place too', async () => {
    const { promise, fail } = gate<string>();
    answer = show('section', { a: promise });
    const loaded = page.goto('/');
    await page.locator('#asking').waitFor();
    fail(new Error('fog'));
    await loaded;
    expect(await html('main')).toBe('<h1>Before</h1><p>No: fog</p><h2>After</h2>');
  });

  test.each([
    ['a row of a table', 'row', 'late', 'tbody', '<tr><td>first</td></tr><tr><td>late</td></tr><tr><td>last</td></tr>'],
    [
      'a group of rows, where the parser makes the body of the table',
      'group',
      ['a', 'b'],
      'table',
      '<tbody><tr><td>a</td></tr><tr><td>b</td></tr></tbody>',
    ],
    ['text', 'text', '12', 'main', '<p>Wind 12 knots</p>'],
    ['a drawing', 'drawing', 3, 'svg', '<circle r="3"></circle>'],
  ])('%s', async (_, name, value, selector, expected) => {
    const { promise, open } = gate<unknown>();
    answer = show(name, { a: promise });
    const loaded = page.goto('/');
    await page.locator(selector).waitFor({ state: 'attached' });
    open(value);
    await loaded;
    expect(await html(selector)).toBe(expected);
    if (name === 'drawing')
      expect(await page.evaluate(() => document.querySelector('circle')?.namespaceURI)).toBe(
        'http://www.w3.org/2000/svg',
      );
  });

  test('a region with late content is answered in place afterwards, and what it has is known', async () => {
    const asked: Array<string | null> = [];
    answer = async (request) => {
      asked.push(request.headers.get('loom-digests'));
      const n = new URL(request.url).searchParams.get('n') ?? '1';
      return loom.respond(request, 'region', { n, a: new Promise((resolve) => setTimeout(resolve, 30, `late ${n}`)) });
    };
    await page.goto('/');
    await page.getByText('late 1').waitFor();
    await page.getByRole('link', { name: 'next' }).click();
    await page.getByText('late 2').waitFor();
    expect([await page.locator('#n').textContent(), asked[1]]).toEqual([
      '2',
      expect.stringMatching(/^page=[\w-]{8}, box=[\w-]{8}$/),
    ]);
  });

  test('markup of a visitor can neither catch late content nor send any', async () => {
    const { promise, open } = gate<string>();
    const text =
      '<!--late x-1--><b>mine</b><!--/late x-1--><template data-loom-late="x-1"><i>caught</i></template><template data-loom-late="1">!</template>';
    answer = show('forged', { a: promise, text });
    const loaded = page.goto('/');
    await page.getByText('caught').waitFor();
    open('real');
    await loaded;
    // A forged pair moves nothing but the visitor’s own markup.
    expect(await html('main')).toMatch(/^<p>real<\/p><div id="comment">/);
  });
});

describe('without scripts', () => {
  test('a browser whose scripts were switched off is sent to the page in source order, and then left alone', async () => {
    await openPage(false);
    const asked: string[] = [];
    answer = async (request) => {
      asked.push(new URL(request.url).search);
      return loom.respond(request, 'section', { a: new Promise((resolve) => setTimeout(resolve, 50, 'late')) });
    };
    await page.goto('/?q=1');
    await page.getByText('late').waitFor();
    expect(await html('main')).toBe('<h1>Before</h1><section id="place">late</section><h2>After</h2>');
    await page.goto('/?q=2');
    expect(asked).toEqual(['?q=1', '?q=1&loom-order=source', '?q=2']);
    expect(await html('main')).toBe('<h1>Before</h1><section id="place">late</section><h2>After</h2>');
  });

  test('once scripts run again, the URL is as it was', async () => {
    await openPage();
    answer = show('section', { a: 'there' });
    await page.goto('/?q=1&loom-order=source');
    await page.waitForFunction(() => document.cookie.includes('loom-client'));
    expect(new URL(page.url()).search).toBe('?q=1');
  });
});
