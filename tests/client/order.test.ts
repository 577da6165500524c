/** The order of answers, with a server that answers when it is told to; ends of sessions; strangers’ pages and markup. */

import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { createLoom, type Loom, trustedHTML } from 'zip-loom';
import { openBrowser } from '../support/browser.ts';
import { gate } from '../support/gate.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>${context.url?.pathname}</title><script type="module" async src="/client.js"></script><slot name="head"></slot></head><body><nav (region account)>${context.visitor ?? "nobody"}</nav><main><slot></slot></main></body></html>',
  'pages/counter.html': `<meta (takes count, text = "")>
<section (region box)><b id="count">\${count}</b> <a href="/?q=slow">slow</a> <a href="/?q=fast">fast</a> <a href="/other">other</a> <a href="/away">away</a>
<form method="post"><input name="text" id="text"><button>Send</button></form><p id="text-shown">\${text}</p></section>
<section (region second)><a href="/?second=1" id="second-link">second</a> <i>\${count}</i></section>
<p (region clock poll="200ms")>\${count}</p>`,
  'pages/two-forms.html':
    '<meta (takes sent)><section (region forms)><p id="sent">${sent}</p><form id="a" method="post"><button name="which" value="one">one</button></form><form id="b" method="post"><button name="which" value="two">two</button></form><a href="/?link">link</a></section>',
  'pages/other.html': '<h1>Other</h1><p (region own)>x</p>',
  'pages/refused.html':
    '<h1>Refused</h1><form method="post" (region refused)><input name="text" id="text" aria-invalid="true"></form>',
  'pages/wishes.html':
    '<meta (takes where)><h1>${where}</h1><section (region box)><p id="where">${where}</p><a href="/?a" data-loom-url="keep">stay</a> <a href="/?c" data-loom-update="none">ordinary</a> <a href="/?fail">fail</a> <p id="sorry" data-loom-on-failure hidden>Sorry</p></section><a href="/?b" data-loom-update="page">whole</a>',
  'pages/boat.html':
    '<meta (takes id)><h1>Boat ${id}</h1><section (region other)><a href="/?id=8" data-loom-update="page">next boat</a></section><div (region reviews from="/reviews?of=${id}")>Loading…</div><pre>${"\\n".repeat(300)}</pre><div (region far from="/far" when="near")>Far away</div>',
  'pages/reviews.html':
    '<meta (takes text, name)><div (region ${name})><b id="review">${text}</b> <a href="/reviews?of=more">more reviews</a></div><link (into head) rel="stylesheet" href="/reviews.css"><script (into head) src="/reviews.js"></script>',
  'pages/comments.html': '<meta (takes comments)><section (region list)>${comments}</section><p (region real)>real</p>',
};

let browser: Browser;
let page: Page;
let server: PagesServer;
let loom: Loom;
let address: string;
/** What answers each request; tests put their own in. */
let answer: (request: Request) => Promise<Response>;
let requests: string[];
let loads: number;

beforeAll(async () => {
  browser = await openBrowser();
  loom = await createLoom({
    sources,
    layouts: { '**': 'site-layout' },
    secret,
    logger: quietLogger,
  });
  server = await openPagesServer((request) => {
    const { pathname, search } = new URL(request.url);
    const only = request.headers.get('loom-only');
    requests.push(`${request.method} ${pathname}${search}${only === null ? '' : ` only ${only}`}`);
    return answer(request);
  });
  ({ address } = server);
});
afterAll(async () => {
  await browser?.close();
  await server?.close();
});
beforeEach(async () => {
  requests = [];
  page = await (await browser.newContext({ baseURL: address })).newPage();
  loads = 0;
  page.on('load', () => loads++);
});
afterEach(() => page.context().close());

async function open(path = '/'): Promise<void> {
  await page.goto(path);
  await page.waitForFunction(() => history.state !== null);
  loads = 0;
}

const show = (request: Request, count: unknown, more: object = {}) =>
  loom.respond(request, 'counter', { count, ...more });
const isPoll = (request: Request) => request.headers.get('loom-only') === 'clock';
const text = (selector: string) => page.locator(selector).textContent();

/** Waits for so many polls to be asked for: by then whatever was answered before has been applied. */
async function pollsToCome(count: number): Promise<void> {
  for (let seen = 0; seen < count; seen++)
    await page.waitForRequest((request) => request.headers()['loom-only'] === 'clock');
}

describe('order', () => {
  test('a newer link replaces an older one, whose answer never lands', async () => {
    const slow = gate();
    answer = async (request) => {
      const wish = new URL(request.url).searchParams.get('q');
      if (wish === 'slow') await slow.opened;
      return show(request, wish ?? 'start');
    };
    await open();
    await page.getByRole('link', { name: 'slow' }).click();
    await page.getByRole('link', { name: 'fast' }).click();
    await page.locator('#count', { hasText: 'fast' }).waitFor();
    slow.open();
    await pollsToCome(2);
    expect([await text('#count'), new URL(page.url()).search, loads]).toEqual(['fast', '?q=fast', 0]);
  });

  test('a poll that was under way while a form was sent is asked again, and its old answer is thrown away', async () => {
    const poll = gate();
    let saved = 0;
    let polls = 0;
    answer = async (request) => {
      if (isPoll(request)) {
        const seen = saved;
        if (polls++ === 0) await poll.opened;
        return show(request, `poll ${seen}`);
      }
      const exchange = await loom.exchange(request);
      if (request.method === 'POST') {
        await exchange.verify();
        saved++;
      }
      return exchange.respond('counter', { count: `saved ${saved}` });
    };
    const polled = pollsToCome(1);
    await open();
    await polled;
    await page.getByRole('button', { name: 'Send' }).click();
    await page.locator('#count', { hasText: 'saved 1' }).waitFor();
    poll.open();
    await page.locator('[data-loom-region=clock]', { hasText: 'poll 1' }).waitFor();
    const seen = await page.evaluate(() => document.querySelector('[data-loom-region=clock]')?.textContent);
    expect(seen).toBe('poll 1');
  });

  test('a double click sends a form once, and what was typed meanwhile stays', async () => {
    const post = gate();
    answer = async (request) => {
      const exchange = await loom.exchange(request);
      if (request.method !== 'POST')
        return isPoll(request) ? new Response(null, { status: 503 }) : exchange.respond('counter', { count: 0 });
      await exchange.verify();
      await post.opened;
      return exchange.respond('counter', { count: 'sent', text: 'first' });
    };
    await open();
    await page.locator('#text').fill('first');
    const button = page.getByRole('button', { name: 'Send' });
    await button.click();
    await button.click({ force: true });
    expect([
      await button.getAttribute('aria-disabled'),
      await page.locator('[data-loom-region=box]').getAttribute('aria-busy'),
    ]).toEqual(['true', 'true']);
    await page.locator('#text').fill('second');
    post.open();
    await page.locator('#text-shown', { hasText: 'first' }).waitFor();
    expect([
      requests.filter((one) => one.startsWith('POST')).length,
      await page.locator('#text').inputValue(),
      await button.getAttribute('aria-disabled'),
    ]).toEqual([1, 'second', null]);
    await button.click();
    await page.waitForFunction(() => (document.querySelector('#text') as HTMLInputElement).value === '');
  });

  test('a link pressed while a form is on its way waits for it', async () => {
    const post = gate();
    const done: string[] = [];
    answer = async (request) => {
      const exchange = await loom.exchange(request);
      if (request.method === 'POST') {
        await exchange.verify();
        await post.opened;
        done.push('post');
      } else if (!isPoll(request)) {
        done.push(`get ${new URL(request.url).search}`);
      }
      return exchange.respond('counter', { count: done.filter((one) => one !== 'get ').join() });
    };
    await open();
    await page.getByRole('button', { name: 'Send' }).click();
    await page.locator('#second-link').click();
    await page.evaluate(() => new Promise(requestAnimationFrame));
    expect(requests.some((url) => url.includes('second'))).toBe(false);
    post.open();
    await page.locator('#count', { hasText: 'post,get ?second=1' }).waitFor();
    expect(loads).toBe(0);
  });

  test('a form that waits for another is sent, whatever is pressed meanwhile', async () => {
    const first = gate();
    const sent: string[] = [];
    answer = async (request) => {
      const exchange = await loom.exchange(request);
      if (request.method === 'POST') {
        const body = await request.clone().formData();
        await exchange.verify();
        sent.push(String(body.get('which')));
        if (sent.length === 1) await first.opened;
      }
      return exchange.respond('two-forms', { sent: sent.join() });
    };
    await open();
    await page.getByRole('button', { name: 'one' }).click();
    await page.getByRole('button', { name: 'two' }).click();
    await page.getByRole('link', { name: 'link' }).click();
    first.open();
    await page.locator('#sent', { hasText: 'one,two' }).waitFor();
    await page.waitForURL('**/?link');
    expect([sent, await page.getByRole('button', { name: 'two' }).getAttribute('aria-disabled'), loads]).toEqual([
      ['one', 'two'],
      null,
      0,
    ]);
  });

  test('going back in the midst of a request gives it up', async () => {
    const slow = gate();
    answer = async (request) => {
      const wish = new URL(request.url).searchParams.get('q');
      if (wish === 'slow') await slow.opened;
      return show(request, wish ?? 'start');
    };
    await open();
    await page.getByRole('link', { name: 'fast' }).click();
    await page.locator('#count', { hasText: 'fast' }).waitFor();
    await page.getByRole('link', { name: 'slow' }).click();
    await page.goBack();
    slow.open();
    await pollsToCome(2);
    expect([await text('#count'), new URL(page.url()).search, loads]).toEqual(['start', '', 0]);
  });
});

describe('failures', () => {
  test('a session that ends between two polls: the region stays, polling stops, an event says so, nothing navigates', async () => {
    let ended = false;
    answer = async (request) => {
      if (new URL(request.url).pathname === '/other') return loom.respond(request, 'other');
      if (!ended || !isPoll(request)) return show(request, 'tick');
      return new Response(null, { status: 303, headers: { location: '/other' } });
    };
    await page.clock.install();
    await open();
    await page.evaluate(() =>
      document.addEventListener('loom:failure', (event) =>
        Object.assign(document.body.dataset, { failed: (event as CustomEvent).detail.region }),
      ),
    );
    ended = true;
    await page.waitForFunction(() => document.body.dataset['failed'] === 'clock');
    const polls = requests.length;
    // A minute of the page’s own time.
    await page.clock.runFor(60_000);
    expect([await text('[data-loom-region=clock]'), new URL(page.url()).pathname, requests.length, loads]).toEqual([
      'tick',
      '/',
      polls,
      0,
    ]);
  });

  test('a server that fails: what was typed stays, a message says so, and a link can be tried again', async () => {
    let broken = true;
    answer = async (request) =>
      broken && requests.length > 1 && !isPoll(request)
        ? new Response('x', { status: 503 })
        : show(request, requests.length);
    await open();
    await page.locator('#text').fill('typed');
    await page.getByRole('link', { name: 'fast' }).click();
    await page.getByText('The server answered with 503.').waitFor();
    expect(await page.locator('#text').inputValue()).toBe('typed');
    broken = false;
    await page.getByRole('button', { name: 'Try again' }).click();
    await page.waitForURL('**/?q=fast');
    expect([await page.locator('.loom-failure').count(), loads]).toEqual([0, 0]);
  });

  test('a form that was refused leaves the URL alone, so a reload is safe', async () => {
    answer = async (request) => {
      const exchange = await loom.exchange(request);
      if (request.method !== 'POST') return exchange.respond('counter', { count: 'page' });
      await exchange.verify();
      return exchange.respond('refused', {}, { status: 422 });
    };
    await open();
    await page.getByRole('button', { name: 'Send' }).click();
    await page.getByRole('heading', { name: 'Refused' }).waitFor();
    expect([new URL(page.url()).pathname, await page.evaluate(() => document.activeElement?.id), loads]).toEqual([
      '/',
      'text',
      0,
    ]);
    await page.reload();
    expect(await text('#count')).toBe('page');
    expect(requests.filter((one) => one.startsWith('POST'))).toHaveLength(1);
  });

  test('a link that leads to another page navigates, and so does one to another site', async () => {
    answer = async (request) => {
      const exchange = await loom.exchange(request);
      const { pathname } = new URL(request.url);
      if (pathname === '/away')
        return exchange.redirect(`${address.replace('127.0.0.1', 'localhost')}/other`, { external: true });
      return exchange.respond(pathname === '/other' ? 'other' : 'counter', { count: 1 });
    };
    await open();
    await page.getByRole('link', { name: 'other' }).click();
    await page.getByRole('heading', { name: 'Other' }).waitFor();
    expect(loads).toBe(1);
    await open();
    await page.getByRole('link', { name: 'away' }).click();
    await page.waitForURL('http://localhost:*/other');
  });
});

describe('regions that load themselves', () => {
  test('at once or near the screen; their links stay inside, the URL too, and a merge of the page keeps what was loaded', async () => {
    answer = async (request) => {
      const { pathname, searchParams } = new URL(request.url);
      if (pathname === '/reviews')
        return loom.respond(request, 'reviews', { name: 'reviews', text: `reviews of ${searchParams.get('of')}` });
      if (pathname === '/reviews.css')
        return new Response('#review { color: rgb(1, 2, 3); }', { headers: { 'content-type': 'text/css' } });
      if (pathname === '/reviews.js')
        return new Response('globalThis.reviewsLoaded = (globalThis.reviewsLoaded ?? 0) + 1;', {
          headers: { 'content-type': 'text/javascript' },
        });
      if (pathname === '/far') return loom.respond(request, 'reviews', { name: 'far', text: 'far' });
      return loom.respond(request, 'boat', { id: searchParams.get('id') ?? 7 });
    };
    await open();
    const review = page.locator('[data-loom-region=reviews] #review');
    await review.filter({ hasText: 'reviews of 7' }).waitFor();
    // What the other page places into its head comes along, once.
    await page.waitForFunction(() => 'reviewsLoaded' in globalThis);
    await page.waitForFunction(() => getComputedStyle(document.querySelector('#review')!).color === 'rgb(1, 2, 3)');
    expect(requests.some((one) => one.startsWith('GET /far'))).toBe(false);
    await page.getByRole('link', { name: 'more reviews' }).first().click();
    await review.filter({ hasText: 'reviews of more' }).waitFor();
    expect(await page.evaluate(() => Reflect.get(globalThis, 'reviewsLoaded') as number)).toBe(1);
    expect([new URL(page.url()).pathname, await text('h1')]).toEqual(['/', 'Boat 7']);
    await page.getByRole('link', { name: 'next boat' }).click();
    await page.getByRole('heading', { name: 'Boat 8' }).waitFor();
    await review.filter({ hasText: 'reviews of 8' }).waitFor();
    await page.locator('[data-loom-region=far]').scrollIntoViewIfNeeded();
    await page.locator('[data-loom-region=far] #review').waitFor();
    expect(loads).toBe(0);
  });
});

describe('wishes', () => {
  test('a URL that stays, a merge of the whole page, an ordinary navigation, and a failure’s own element', async () => {
    answer = (request) =>
      new URL(request.url).searchParams.has('fail') && request.headers.has('loom-region')
        ? Promise.resolve(new Response('x', { status: 500 }))
        : loom.respond(request, 'wishes', { where: new URL(request.url).search });
    await open();
    await page.getByRole('link', { name: 'stay' }).click();
    await page.locator('#where', { hasText: '?a' }).waitFor();
    expect([new URL(page.url()).search, await text('h1')]).toEqual(['', '?a']);
    await page.getByRole('link', { name: 'whole' }).click();
    await page.locator('h1', { hasText: '?b' }).waitFor();
    expect([new URL(page.url()).search, loads]).toEqual(['?b', 0]);
    expect(await page.locator('#sorry').isVisible()).toBe(false);
    await page.getByRole('link', { name: 'fail' }).click();
    await page.locator('#sorry').waitFor();
    await page.getByRole('link', { name: 'ordinary' }).click();
    await page.waitForURL('**/?c');
    expect(loads).toBe(1);
  });
});

describe('strangers', () => {
  test('a handler that knows nothing of us: its regions are picked out of its page', async () => {
    answer = async (request) => {
      if (!request.headers.has('loom-region') || isPoll(request)) return show(request, 'ours');
      const html =
        '<!doctype html><title>Foreign</title><section data-loom-region="box"><b id="count">foreign</b></section><nav data-loom-region="account">somebody</nav>';
      return new Response(html, { headers: { 'content-type': 'text/html' } });
    };
    await open();
    await page.getByRole('link', { name: 'fast' }).click();
    await page.locator('#count', { hasText: 'foreign' }).waitFor();
    expect([
      await text('nav'),
      await page.title(),
      await page.locator('[data-loom-region=second]').count(),
      loads,
    ]).toEqual(['somebody', 'Foreign', 1, 0]);
  });

  test('visitors’ markup can neither catch nor send an update', async () => {
    const evil =
      '<p data-loom-region="account" id="trap">trap</p><template data-loom-merge-into="real"><p>stolen</p></template><template data-loom-page="comments site-layout" data-loom-mark="" data-loom-digests=""></template><a href="/?x=1" id="link">more</a>';
    let count = 0;
    answer = (request) => loom.respond(request, 'comments', { comments: trustedHTML(`${evil}<i>${count++}</i>`) });
    await open();
    await page.locator('#link').click();
    await page.locator('[data-loom-region=list] i', { hasText: '1' }).waitFor();
    expect([
      await text('[data-loom-region=real]'),
      await text('nav'),
      await page.locator('#trap').textContent(),
      loads,
    ]).toEqual(['real', 'nobody', 'trap', 0]);
  });
});

describe('pages without regions', () => {
  const markup =
    '<div data-loom-region="box" data-loom-from="/steal" id="from">x</div><div data-loom-region="poll" data-loom-mark="" data-loom-poll="100ms">x</div><p data-loom-region="both" data-loom-mark="made-up1" data-loom-poll="100ms" data-loom-from="/steal"><a id="link" href="/other" data-loom-region="box">x</a></p><template data-loom-page="made up" data-loom-mark="made-up1" data-loom-digests="both=AAAAAAAA"></template>';

  test.each([
    ['on a first visit', false, `<main>${markup}</main>`],
    ['on a later one', true, `<main>${markup}</main>`],
    ['that hold nothing else', true, markup],
  ])('obey no markup of visitors: %s', async (_name, hasCookie, body) => {
    const plain = await createLoom({
      sources: {
        'pages/plain.html':
          '<meta (takes comments)><!doctype html><html><head><script type="module" async src="/client.js"></script></head><body>${comments}</body></html>',
        'pages/other.html': '<p (region other)>x</p>',
      },
      logger: quietLogger,
    });
    answer = (request) => plain.respond(request, 'plain', { comments: trustedHTML(body) });
    if (hasCookie) await page.context().addCookies([{ name: 'loom-client', value: '1', url: address }]);
    await open();
    await page.locator('#link').click();
    await page.waitForURL('**/other');
    await page.waitForFunction(() => history.state !== null);
    expect([requests, loads]).toEqual([['GET /', 'GET /other'], 1]);
  });

  test('a place to go to that is no page is not followed', async () => {
    answer = async (request) =>
      request.headers.has('loom-region') && !isPoll(request)
        ? new Response(null, { status: 204, headers: { 'loom-elsewhere': 'javascript:document.title="evil"' } })
        : show(request, 'ours');
    await open();
    await page.getByRole('link', { name: 'fast' }).click();
    await page.waitForURL('**/?q=fast');
    expect(await page.title()).toBe('/');
  });
});

test('the client is smaller than 12.5 kB', () => {
  expect(gzipSync(readFileSync('dist/client.min.js'), { level: 9 }).length).toBeLessThan(12.5 * 1024);
});
