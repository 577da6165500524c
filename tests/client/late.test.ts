/** Late content, from a server that sends each part when a test says so; with scripts and without. */

import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom } from 'zip-loom';
import { openBrowser } from '../support/browser.ts';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, type Tab, until } from '../support/engines/index.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger } from '../support/settings.ts';

const sources = {
  // WebKit looks at 512 bytes before it shows any.
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>T</title><meta name="description" content=${"x".repeat(512)}><script src="/problems.js"></script><script type="module" async src="/client.js"></script></head><body><main><slot></slot></main></body></html>',
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

let server: PagesServer;
let loom: Loom;
let answer: (request: Request) => Promise<Response>;

/** A value that a test gives when it likes. */
function gate<T>() {
  let open!: (value: T) => void;
  let fail!: (error: Error) => void;
  const promise = new Promise<T>((resolve, reject) => {
    open = resolve;
    fail = reject;
  });
  return { promise, open, fail };
}

const later = <Value>(value: Value) => new Promise<Value>((resolve) => setTimeout(resolve, 30, value));
const show = (name: string, data: object) => async (request: Request) => loom.respond(request, name, data);

const file = (type: string, text: string) => new Response(text, { headers: { 'content-type': type } });
/** Tells the page around of what goes wrong in its frame. */
const problems = `for (const type of ['error', 'unhandledrejection', 'securitypolicyviolation'])
  addEventListener(type, (event) => (parent.problems ??= []).push(String(event.message ?? event.reason ?? event.violatedDirective)), true);`;

beforeAll(async () => {
  loom = await createLoom({ sources, layouts: { '**': 'site-layout' }, logger: quietLogger });
  server = await openPagesServer((request) => {
    const { pathname } = new URL(request.url);
    if (pathname === '/frame') return Promise.resolve(file('text/html', '<!doctype html>'));
    if (pathname === '/problems.js') return Promise.resolve(file('text/javascript', problems));
    return answer(request);
  });
});
afterAll(() => server?.close());

// A driver looks at nothing while its page is still coming, and so the page comes in a frame.
describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(async () => {
    tab = visitor();
    await tab.goto(`${server.address}/frame`);
    await tab.run(() => {
      // The server knows of the client.
      document.cookie = 'loom-client=1; path=/';
    });
  });
  afterEach(async () => {
    expect(await tab.run(() => (Reflect.get(globalThis, 'problems') as string[] | undefined) ?? [])).toEqual([]);
  });

  const openPage = (path = '/') =>
    tab.run((url: string) => {
      const frame = document.createElement('iframe');
      frame.src = url;
      document.body.append(frame);
      frame.onload = () => Object.assign(globalThis, { isLoaded: true });
    }, path);
  const loaded = () => until(tab, () => 'isLoaded' in globalThis);
  const html = (selector: string) =>
    tab.run((where: string) => frames[0]!.document.querySelector(where)!.innerHTML, selector);
  const count = (selector: string) =>
    tab.run((where: string) => frames[0]!.document.querySelectorAll(where).length, selector);
  const shows = (selector: string, text: string) =>
    until(
      tab,
      (where: string, what: string) =>
        [...frames[0]!.document.querySelectorAll(where)].some(({ textContent }) => textContent === what),
      selector,
      text,
    );

  test('the page is at once, and the content is put in place while the page is still coming', async () => {
    const [first, second] = [gate<string>(), gate<string>()];
    answer = show('two', { a: first.promise, b: second.promise });
    await openPage();
    await shows('li', 'B');
    second.open('second');
    await shows('li', 'second');
    expect([await html('ul'), await tab.run(() => frames[0]!.document.readyState)]).toEqual([
      expect.stringMatching(/^<!--late \S+-1--><li>A<\/li><!--\/late \S+-1--><li>second<\/li>$/),
      'loading',
    ]);
    first.open('first');
    await loaded();
    expect(await html('ul')).toBe('<li>first</li><li>second</li>');
    expect(await count('template[data-loom-late]')).toBe(0);
  });

  test('a failure takes the place too', async () => {
    const { promise, fail } = gate<string>();
    answer = show('section', { a: promise });
    await openPage();
    await shows('#asking', 'Asking');
    fail(new Error('fog'));
    await loaded();
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
    await openPage();
    await until(tab, (where: string) => frames[0]!.document.querySelector(where) !== null, selector);
    open(value);
    await loaded();
    expect(await html(selector)).toBe(expected);
    if (name === 'drawing')
      expect(await tab.run(() => frames[0]!.document.querySelector('circle')?.namespaceURI)).toBe(
        'http://www.w3.org/2000/svg',
      );
  });

  test('a region with late content is answered in place afterwards, and what it has is known', async () => {
    const asked: Array<string | null> = [];
    answer = async (request) => {
      asked.push(request.headers.get('loom-digests'));
      const n = new URL(request.url).searchParams.get('n') ?? '1';
      return loom.respond(request, 'region', { n, a: later(`late ${n}`) });
    };
    await openPage();
    await shows('i', 'late 1');
    await loaded();
    await tab.run(() => frames[0]!.document.querySelector('a')!.click());
    await shows('i', 'late 2');
    expect([await html('#n'), asked[1]]).toEqual(['2', expect.stringMatching(/^page=[\w-]{8}, box=[\w-]{8}$/)]);
  });

  test('markup of a visitor can neither catch late content nor send any', async () => {
    const { promise, open } = gate<string>();
    const text =
      '<!--late x-1--><b>mine</b><!--/late x-1--><template data-loom-late="x-1"><i>caught</i></template><template data-loom-late="1">!</template>';
    answer = show('forged', { a: promise, text });
    await openPage();
    await until(tab, () => frames[0]!.document.querySelector('#comment') !== null);
    open('real');
    await loaded();
    // A forged pair moves nothing but the visitor’s own markup.
    expect(await html('main')).toMatch(/^<p>real<\/p><div id="comment">/);
  });

  test('once scripts run again, the URL is as it was', async () => {
    answer = show('section', { a: 'there' });
    await tab.goto(`${server.address}/?q=1&loom-order=source`);
    await until(tab, () => document.cookie.includes('loom-client') && location.search === '?q=1');
  });
});

describe('without scripts', () => {
  // Only this driver can switch scripts off; what counts is what the server sends then.
  test('a browser whose scripts were switched off is sent to the page in source order, and then left alone', async () => {
    const browser = await openBrowser();
    try {
      const context = await browser.newContext({ baseURL: server.address, javaScriptEnabled: false });
      await context.addCookies([{ name: 'loom-client', value: '1', url: server.address }]);
      const page = await context.newPage();
      const asked: string[] = [];
      answer = async (request) => {
        asked.push(new URL(request.url).search);
        return loom.respond(request, 'section', { a: later('late') });
      };
      const inOrder = '<h1>Before</h1><section id="place">late</section><h2>After</h2>';
      await page.goto('/?q=1');
      await page.getByText('late').waitFor();
      expect(await page.locator('main').innerHTML()).toBe(inOrder);
      await page.goto('/?q=2');
      expect(asked).toEqual(['?q=1', '?q=1&loom-order=source', '?q=2']);
      expect(await page.locator('main').innerHTML()).toBe(inOrder);
    } finally {
      await browser.close();
    }
  });
});
