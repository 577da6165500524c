/** The order of answers, with a server that answers when it is told to; ends of sessions; strangers’ pages and markup. */

import { readdirSync, readFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, trustedHTML } from 'zip-loom';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until, untilText } from '../support/engines/index.ts';
import { gate } from '../support/gate.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>${context.url?.pathname}</title><script type="module" async src="/client.js"></script><slot name="head"></slot></head><body><nav (region account)>${context.visitor ?? "nobody"}</nav><main><slot></slot></main></body></html>',
  'pages/counter.html': `<meta (takes count, text = "")>
<section (region box)><b id="count">\${count}</b> <a href="/?q=slow">slow</a> <a href="/?q=fast">fast</a> <a href="/other">other</a> <a href="/away">away</a>
<form method="post"><input name="text" id="text"><button id="send">Send</button></form><p id="text-shown">\${text}</p></section>
<section (region second)><a href="/?second=1" id="second-link">second</a> <i>\${count}</i></section>
<p (region clock poll="200ms")>\${count}</p>`,
  'pages/two-forms.html':
    '<meta (takes sent)><section (region forms)><p id="sent">${sent}</p><form id="a" method="post"><button id="one" name="which" value="one">one</button></form><form id="b" method="post"><button id="two" name="which" value="two">two</button></form><a href="/?link">link</a></section>',
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

let server: PagesServer;
let loom: Loom;
let address: string;
/** What answers each request; tests put their own in. */
let answer: (request: Request) => Promise<Response>;
let requests: string[];
let polls: number;

beforeAll(async () => {
  loom = await createLoom({ sources, layouts: { '**': 'site-layout' }, secret, logger: quietLogger });
  server = await openPagesServer((request) => {
    const { pathname, search } = new URL(request.url);
    const only = request.headers.get('loom-only');
    requests.push(`${request.method} ${pathname}${search}${only === null ? '' : ` only ${only}`}`);
    if (isPoll(request)) polls++;
    return answer(request);
  });
  ({ address } = server);
});
afterAll(() => server?.close());

const show = (request: Request, count: unknown, more: object = {}) =>
  loom.respond(request, 'counter', { count, ...more });
/** Shows what a request wishes; one that wishes to be slow waits. */
const slowly = (opened: Promise<void>) => async (request: Request) => {
  const wish = new URL(request.url).searchParams.get('q');
  if (wish === 'slow') await opened;
  return show(request, wish ?? 'start');
};
const isPoll = (request: Request) => request.headers.get('loom-only') === 'clock';
const posts = () => requests.filter((one) => one.startsWith('POST')).length;

describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(() => {
    tab = visitor();
    requests = [];
    polls = 0;
  });

  const open = (path = '/') => openWithClient(tab, address + path);
  const press = (selector: string) => tab.click(selector);
  const shows = (selector: string, text: string) => untilText(tab, selector, text);
  const isAt = (path: string) => until(tab, (there: string) => location.pathname + location.search === there, path);
  const isSame = () => isSameWindow(tab);
  const text = (selector: string) =>
    tab.run((where: string) => document.querySelector(where)?.textContent ?? null, selector);
  const attribute = (selector: string, name: string) =>
    tab.run((where: string, which: string) => document.querySelector(where)!.getAttribute(which), selector, name);
  const count = (selector: string) => tab.run((where: string) => document.querySelectorAll(where).length, selector);
  const value = (selector: string) =>
    tab.run((where: string) => document.querySelector<HTMLInputElement>(where)!.value, selector);
  const search = async () => new URL(await tab.url()).search;
  const fill = async (selector: string, typed: string) => {
    await press(selector);
    await tab.run((where: string) => document.querySelector<HTMLInputElement>(where)!.select(), selector);
    await tab.type(typed);
  };
  /** Waits for so many polls to be asked for: by then whatever was answered before has been applied. */
  const pollsToCome = async (count: number) => {
    const enough = polls + count;
    while (polls < enough) await pause(10);
  };

  describe('order', () => {
    test('a newer link replaces an older one, whose answer never lands', async () => {
      const slow = gate();
      answer = slowly(slow.opened);
      await open();
      await press('a[href="/?q=slow"]');
      await press('a[href="/?q=fast"]');
      await shows('#count', 'fast');
      slow.open();
      await pollsToCome(2);
      expect([await text('#count'), await search(), await isSame()]).toEqual(['fast', '?q=fast', true]);
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
      await press('#send');
      await shows('#count', 'saved 1');
      poll.open();
      await shows('[data-loom-region=clock]', 'poll 1');
      const seen = await tab.run(() => document.querySelector('[data-loom-region=clock]')?.textContent);
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
      await fill('#text', 'first');
      await press('#send');
      // A driver would wait until the button can be pressed again.
      await tab.run(() => document.querySelector<HTMLElement>('#send')!.click());
      expect([
        await attribute('#send', 'aria-disabled'),
        await attribute('[data-loom-region=box]', 'aria-busy'),
      ]).toEqual(['true', 'true']);
      await fill('#text', 'second');
      post.open();
      await shows('#text-shown', 'first');
      expect([posts(), await value('#text'), await attribute('#send', 'aria-disabled')]).toEqual([1, 'second', null]);
      await press('#send');
      await until(tab, () => (document.querySelector('#text') as HTMLInputElement).value === '');
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
      await press('#send');
      await press('#second-link');
      await tab.run(() => new Promise(requestAnimationFrame));
      expect(requests.some((url) => url.includes('second'))).toBe(false);
      post.open();
      await shows('#count', 'post,get ?second=1');
      expect(await isSame()).toBe(true);
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
      await press('#one');
      await press('#two');
      await press('a[href="/?link"]');
      first.open();
      await shows('#sent', 'one,two');
      await isAt('/?link');
      expect([sent, await attribute('#two', 'aria-disabled'), await isSame()]).toEqual([['one', 'two'], null, true]);
    });

    test('going back in the midst of a request gives it up', async () => {
      const slow = gate();
      answer = slowly(slow.opened);
      await open();
      await press('a[href="/?q=fast"]');
      await shows('#count', 'fast');
      await press('a[href="/?q=slow"]');
      await tab.back();
      slow.open();
      await pollsToCome(2);
      expect([await text('#count'), await search(), await isSame()]).toEqual(['start', '', true]);
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
      await open();
      await tab.run(() =>
        document.addEventListener('loomfailure', (event) =>
          Object.assign(document.body.dataset, {
            failed: Object.values((event as CustomEvent).detail)
              .slice(1)
              .join(' ')
              .trim(),
          }),
        ),
      );
      ended = true;
      await until(tab, () => document.body.dataset['failed'] === 'clock gone');
      const asked = requests.length;
      // Five polls would have been asked for.
      await pause(1000);
      expect([
        await text('[data-loom-region=clock]'),
        new URL(await tab.url()).pathname,
        requests.length,
        await isSame(),
      ]).toEqual(['tick', '/', asked, true]);
    });

    test('a server that fails: what was typed stays, a message says so, and a link can be tried again', async () => {
      let broken = true;
      answer = async (request) =>
        broken && requests.length > 1 && !isPoll(request)
          ? new Response('x', { status: 503 })
          : show(request, requests.length);
      await open();
      await fill('#text', 'typed');
      await press('a[href="/?q=fast"]');
      await shows('.loom-failure', 'The server answered with 503.');
      expect(await value('#text')).toBe('typed');
      broken = false;
      await press('.loom-failure button');
      await isAt('/?q=fast');
      expect([await count('.loom-failure'), await isSame()]).toEqual([0, true]);
    });

    test('a form that was refused leaves the URL alone, so a reload is safe', async () => {
      answer = async (request) => {
        const exchange = await loom.exchange(request);
        if (request.method !== 'POST') return exchange.respond('counter', { count: 'page' });
        await exchange.verify();
        return exchange.respond('refused', {}, { status: 422 });
      };
      await open();
      await press('#send');
      await shows('h1', 'Refused');
      expect([
        new URL(await tab.url()).pathname,
        await tab.run(() => document.activeElement?.id),
        await isSame(),
      ]).toEqual(['/', 'text', true]);
      await tab.reload();
      expect(await text('#count')).toBe('page');
      expect(posts()).toBe(1);
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
      await press('a[href="/other"]');
      await shows('h1', 'Other');
      expect(await isSame()).toBe(false);
      await open();
      await press('a[href="/away"]');
      await until(tab, () => location.hostname === 'localhost' && location.pathname === '/other');
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
      await shows('[data-loom-region=reviews] #review', 'reviews of 7');
      // What the other page places into its head comes along, once.
      await until(tab, () => 'reviewsLoaded' in globalThis);
      await until(tab, () => getComputedStyle(document.querySelector('#review')!).color === 'rgb(1, 2, 3)');
      expect(requests.some((one) => one.startsWith('GET /far'))).toBe(false);
      await press('[data-loom-region=reviews] a');
      await shows('[data-loom-region=reviews] #review', 'reviews of more');
      expect(await tab.run(() => Reflect.get(globalThis, 'reviewsLoaded') as number)).toBe(1);
      expect([new URL(await tab.url()).pathname, await text('h1')]).toEqual(['/', 'Boat 7']);
      await press('[data-loom-region=other] a');
      await shows('h1', 'Boat 8');
      await shows('[data-loom-region=reviews] #review', 'reviews of 8');
      await tab.run(() => document.querySelector('[data-loom-region=far]')!.scrollIntoView());
      await shows('[data-loom-region=far] #review', 'far');
      expect(await isSame()).toBe(true);
    });
  });

  describe('wishes', () => {
    test('a URL that stays, a merge of the whole page, an ordinary navigation, and a failure’s own element', async () => {
      answer = (request) =>
        new URL(request.url).searchParams.has('fail') && request.headers.has('loom-region')
          ? Promise.resolve(new Response('x', { status: 500 }))
          : loom.respond(request, 'wishes', { where: new URL(request.url).search });
      await open();
      await press('a[href="/?a"]');
      await shows('#where', '?a');
      expect([await search(), await text('h1')]).toEqual(['', '?a']);
      await press('a[href="/?b"]');
      await shows('h1', '?b');
      expect([await search(), await isSame()]).toEqual(['?b', true]);
      expect(await attribute('#sorry', 'hidden')).toBe('');
      await press('a[href="/?fail"]');
      await until(tab, () => !document.querySelector<HTMLElement>('#sorry')!.hidden);
      await press('a[href="/?c"]');
      await isAt('/?c');
      expect(await isSame()).toBe(false);
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
      await press('a[href="/?q=fast"]');
      await shows('#count', 'foreign');
      expect([
        await text('nav'),
        await tab.run(() => document.title),
        await count('[data-loom-region=second]'),
        await isSame(),
      ]).toEqual(['somebody', 'Foreign', 1, true]);
    });

    test('visitors’ markup can neither catch nor send an update', async () => {
      const evil =
        '<p data-loom-region="account" id="trap">trap</p><template data-loom-merge-into="real"><p>stolen</p></template><template data-loom-page="comments site-layout" data-loom-mark="" data-loom-digests=""></template><a href="/?x=1" id="link">more</a>';
      let count = 0;
      answer = (request) => loom.respond(request, 'comments', { comments: trustedHTML(`${evil}<i>${count++}</i>`) });
      await open();
      await press('#link');
      await shows('[data-loom-region=list] i', '1');
      expect([await text('[data-loom-region=real]'), await text('nav'), await text('#trap'), await isSame()]).toEqual([
        'real',
        'nobody',
        'trap',
        true,
      ]);
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
      if (hasCookie) await open('/other');
      requests = [];
      await open();
      await press('#link');
      await isAt('/other');
      await until(tab, () => history.state !== null);
      expect([requests, await isSame()]).toEqual([['GET /', 'GET /other'], false]);
    });

    test('a place to go to that is no page is not followed', async () => {
      answer = async (request) =>
        request.headers.has('loom-region') && !isPoll(request)
          ? new Response(null, { status: 204, headers: { 'loom-elsewhere': 'javascript:document.title="evil"' } })
          : show(request, 'ours');
      await open();
      await press('a[href="/?q=fast"]');
      await isAt('/?q=fast');
      expect(await tab.run(() => document.title)).toBe('/');
    });
  });
});

test('the client keeps its size, and what it loads later knows no other client', () => {
  expect(gzipSync(readFileSync('packages/zip-loom/dist/client.min.js'), { level: 9 }).length).toBeLessThan(15_400);
  for (const file of readdirSync('packages/zip-loom/dist').filter((name) =>
    /^client-(?!with)[\w-]+\.min\.js$/.test(name),
  ))
    expect([file, readFileSync(`packages/zip-loom/dist/${file}`, 'utf8').match(/\bimport\b|createPolicy/g)]).toEqual([
      file,
      null,
    ]);
});
