/** The rules of the client, each with a server that answers when, and as, a test says: one URL, what it has, ends of all paths. */
import { resolve } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom } from 'zip-loom';
import { bundle } from '../support/bundle.ts';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until, untilText } from '../support/engines/index.ts';
import { gate } from '../support/gate.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const layout = (script: string) =>
  `<meta (takes dark = false, lang = "en", base = false)><!doctype html>
<html lang=\${lang} class=\${dark && 'dark'}><head><meta charset="utf-8"><title>\${context.url?.search ?? ''}</title><template (if base)><base href="/elsewhere/" target="_blank"></template><link rel="stylesheet" href="/page.css"><script type="module" async src="${script}"></script></head><body data-dark=\${dark ? 'yes' : null}><main><slot></slot></main></body></html>`;

const sources = {
  'layouts/site-layout.html': layout('/client.js'),
  'layouts/quick-layout.html': layout('/quick.js'),
  'pages/board.html': `<meta (layout site-layout dark=\${dark} lang=\${lang} base=\${base}) (takes count, dark = false, lang = "en", rows = [1, 2, 3], value = "", refused = false, base = false)>
<h1>Board</h1><section (region box)><h2>Box</h2><b id="count">\${count}</b>
<a id="next" href="/?n=2">next</a> <a id="other" href="/?n=3">other</a> <a id="to-end" href="/?n=4#end">end</a> <a id="place" href="#end">place</a> <a id="top" href="#">top</a>
<a id="csv" href="/report.csv">csv</a> <a id="export" href="/export">export</a> <a id="away" href="/away">away</a> <a id="nothing" href="/nothing">nothing</a>
<p contenteditable id="rich"><a id="rich-link" href="/?n=9">rich</a></p>
<form id="form" method="post"><input id="text" name="text" value=\${value} aria-invalid=\${refused ? 'true' : null}><button id="send">send</button></form>
<form id="file-form" method="post"><input type="file" name="file" id="file"><button id="send-file">send</button></form>
<ul><li (for row of rows) id="row-\${row}"><form method="post" action="/?remove=\${row}"><button>remove \${row}</button></form></li></ul></section>
<section (region notes)><p id="notes">\${count}</p><textarea id="draft"></textarea></section>
<table><tbody (region cells)><tr><td><a id="cell" href="/?cell">cell</a></td></tr></tbody></table>
<p (region one poll="150ms")>one \${count}</p><p (region two poll="150ms")>two \${count}</p>
<input id="beside" autofocus><p id="tall">\${count}</p><p id="end">end</p>`,
  'pages/save.html':
    '<meta (layout site-layout) (takes saved)><section (region saving)><a id="next" href="/?n=2">next</a><p id="saved">${saved}</p><form method="post" data-loom-submit-on="input" data-loom-debounce="20"><input id="text" name="text" value=${saved}></form></section>',
  'pages/quick.html':
    '<meta (layout quick-layout) (takes count)><section (region box)><b id="count">${count}</b><a id="next" href="/?n=2">next</a><form method="post"><button id="send">send</button></form><form method="post"><input type="file" id="file" name="file"><button id="send-file">send</button></form></section><p (region clock poll="100ms")>${count}</p>',
  'pages/drawn.html':
    '<meta (layout site-layout) (takes n)><section (region box)><a id="next" href="/?n=${n + 1}">next</a><b id="count">${n}</b><canvas (if n === 1) id="canvas" width="10" height="10"></canvas><div (if n === 1) id="scroll"><p id="long">long</p></div><input (if n === 1) id="draft"></section>',
  'pages/private.html':
    '<meta (layout site-layout) (takes n)><section (region box)><a id="next" href="/?n=${n + 1}">next</a><b id="count">secret ${n}</b></section>',
  'pages/sign-in.html': '<meta (layout site-layout)><h1 id="sign-in">Sign in</h1><p (region own)>x</p>',
  'pages/über/日本.html':
    '<meta (layout site-layout) (takes n)><section (region box)><a id="next" href="/?n=${n + 1}">next</a><b id="count">${n}</b></section><p (region rest)>same</p>',
  'pages/whole.html':
    '<meta (layout site-layout)><h1 id="whole">Whole</h1><input id="beside"><a id="home" href="/" data-loom-update="page">home</a><p (region own)>x</p>',
  'pages/start.html':
    '<meta (layout site-layout) (takes n = 1)><h1>Start ${n}</h1><input id="beside"><a id="to-whole" href="/whole" data-loom-update="page">whole</a><p (region own)>x</p>',
};

type Answer = (request: Request) => Promise<Response>;

let loom: Loom;
let server: PagesServer;
let answer: Answer;
/** Requests for pages, with what the client said. */
let asked: Array<{
  what: string;
  only: string | null;
  digests: string | null;
  type: string | null;
  page: string | null;
  body: Promise<string>;
}>;

beforeAll(async () => {
  loom = await createLoom({ sources, secret, logger: quietLogger });
  const quick = bundle(
    `import { start } from ${JSON.stringify(resolve('packages/zip-loom/src/client/index.ts'))}; start({ requestTimeout: 400, texts: { again: 'Once more' } });`,
  );
  server = await openPagesServer(async (request) => {
    const { pathname, search } = new URL(request.url);
    if (pathname === '/quick.js') return new Response(quick, { headers: { 'content-type': 'text/javascript' } });
    if (pathname === '/page.css') return new Response(css, { headers: { 'content-type': 'text/css' } });
    const said = (name: string) => request.headers.get(`loom-${name}`);
    const body = request.method === 'POST' ? request.clone().text() : Promise.resolve('');
    asked.push({
      what: `${request.method} ${pathname}${search}`,
      only: said('only'),
      digests: said('digests'),
      type: request.headers.get('content-type'),
      page: said('page'),
      body,
    });
    return answer(request);
  });
});
afterAll(() => server?.close());

const tall = '#tall { height: 3000px; }';
let css = tall;

/** The answer to everything: the board, after a post as well. */
const board =
  (more: (request: Request) => object = () => ({})): Answer =>
  async (request) => {
    const exchange = await loom.exchange(request);
    if (request.method === 'POST') await exchange.verify();
    const count = new URL(request.url).searchParams.get('n') ?? '1';
    return exchange.respond('board', { count, ...more(request) });
  };

const pages = () => asked.filter(({ only }) => only === null).map(({ what }) => what);
const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds));
/** Waits until something is so on the server. */
const comes = async (isSo: () => boolean) => {
  for (const end = Date.now() + 10_000; !isSo(); await pause(10))
    if (Date.now() > end) throw new Error(`This never came true: ${isSo}`);
};

describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(() => {
    asked = [];
    css = tall;
    answer = board();
    tab = visitor();
  });

  const open = (path = '/') => openWithClient(tab, server.address + path);
  const press = (selector: string) =>
    tab.run((where: string) => document.querySelector<HTMLElement>(where)!.click(), selector);
  const shows = (selector: string, text: string) => untilText(tab, selector, text);
  const isSame = () => isSameWindow(tab);
  /** Whether the client takes a click on a link; the browser does not follow it here. */
  const takes = (selector: string) =>
    tab.run((where: string) => {
      let isTaken: boolean | undefined;
      const look = (event: Event) => {
        isTaken = event.defaultPrevented;
        event.preventDefault();
      };
      addEventListener('click', look, { once: true });
      HTMLElement.prototype.click.call(document.querySelector(where));
      return isTaken;
    }, selector);
  const write = (selector: string, text: string) =>
    tab.run(
      (where: string, letters: string) => {
        const field = document.querySelector<HTMLInputElement>(where)!;
        field.focus();
        field.value = letters;
        field.dispatchEvent(new InputEvent('input', { bubbles: true }));
      },
      selector,
      text,
    );
  const calm = () => until(tab, () => document.querySelector('[aria-busy], [aria-disabled]') === null);

  describe('what the client says it has, it has', () => {
    test('a cancelled update is not had', async () => {
      await open();
      await tab.run(() => {
        let isFirst = true;
        document.addEventListener('loommerge', (event) => {
          // Polls may come before.
          if (!isFirst || (event as CustomEvent<{ region: string }>).detail.region !== 'page') return;
          isFirst = false;
          event.preventDefault();
        });
      });
      await press('#next');
      await until(tab, () => location.search === '?n=2');
      await calm();
      await press('#other');
      await shows('#count', '3');
      const said = asked.filter(({ only }) => only === null).at(-1)!.digests!;
      expect([said.includes('notes='), await tab.run(() => document.querySelector('#notes')!.textContent)]).toEqual([
        false,
        '3',
      ]);
    });

    test('after a refusal only the form that was sent is had', async () => {
      answer = async (request) => {
        if (request.method !== 'POST') return board()(request);
        const exchange = await loom.exchange(request);
        await exchange.verify();
        return exchange.respond('board', { count: 7, refused: true }, { status: 422 });
      };
      await open();
      await press('#send');
      await shows('#count', '7');
      // The rest of that page was not sent, and stays to be sent.
      expect(await tab.run(() => document.querySelector('#notes')!.textContent)).toBe('1');
      answer = board(() => ({ count: 7 }));
      await press('#next');
      await shows('#notes', '7');
    });

    test('half an answer is a failure, and changes nothing', async () => {
      answer = async (request) => {
        const response = await board()(request);
        if (!request.url.includes('n=2')) return response;
        const text = await response.text();
        return new Response(text.slice(0, text.length / 2), { headers: response.headers });
      };
      await open();
      await press('#next');
      await shows('.loom-failure', 'The answer was cut off.');
      expect(await tab.run(() => [document.querySelector('#count')!.textContent, location.search])).toEqual(['1', '']);
    });
  });

  describe('one URL', () => {
    test('regions are asked for from the URL that the page has when they are asked', async () => {
      await open();
      await press('#next');
      await shows('#count', '2');
      asked = [];
      await until(tab, () => document.querySelector('[data-loom-region=one]')!.textContent === 'one 2');
      await pause(400);
      expect(new Set(asked.map(({ what, only }) => `${what} ${only}`))).toEqual(new Set(['GET /?n=2 one, two']));
    });

    test('going back while a form is on its way: page and URL agree, and what the form did is shown', async () => {
      const post = gate();
      let done = 0;
      answer = async (request) => {
        const exchange = await loom.exchange(request);
        if (request.method === 'POST') {
          await exchange.verify();
          await post.opened;
          done++;
          return exchange.redirect('/?n=2');
        }
        return exchange.respond('board', { count: `${new URL(request.url).searchParams.get('n')} ${done}` });
      };
      await open('/?n=1');
      await press('#next');
      await shows('#count', '2 0');
      await press('#send');
      await tab.back();
      await shows('#count', '1 0');
      post.open();
      await shows('#count', '1 1');
      await calm();
      expect(await tab.run(() => location.search)).toBe('?n=1');
    });
  });

  describe('busy states end', () => {
    test('when another region is asked for instead, and when the visitor goes back', async () => {
      const slow = gate();
      answer = async (request) => {
        if (request.url.includes('n=3')) await slow.opened;
        return board()(request);
      };
      await open();
      await press('#next');
      await shows('#count', '2');
      await press('#other');
      expect(await tab.run(() => document.querySelector('[data-loom-region=box]')!.getAttribute('aria-busy'))).toBe(
        'true',
      );
      await press('#cell');
      await calm();
      await press('#other');
      await tab.back();
      await shows('#count', '2');
      await calm();
      slow.open();
      expect(await isSame()).toBe(true);
    });

    test('a page that never comes can be asked for again; a form that is never answered holds up nobody', async () => {
      let silent = true;
      answer = async (request) => {
        if (silent && request.headers.has('loom-region')) await new Promise(() => {});
        const exchange = await loom.exchange(request);
        return exchange.respond('quick', { count: new URL(request.url).searchParams.get('n') ?? '1' });
      };
      await open();
      await press('#next');
      await shows('.loom-failure', 'The server has not answered.');
      await shows('.loom-failure button', 'Once more');
      await press('#send');
      await shows('.loom-failure', 'The server has not answered.');
      await calm();
      silent = false;
      await press('#next');
      await shows('#count', '2');
    });

    test('a poll that is never answered is ended, and asked again', async () => {
      let polls = 0;
      answer = async (request) => {
        if (request.headers.has('loom-only') && polls++ === 0) await new Promise(() => {});
        return loom.respond(request, 'quick', { count: polls > 1 ? 'asked again' : 'first' });
      };
      await open();
      await shows('[data-loom-region=clock]', 'asked again');
    });

    test('polls that fail wait longer, until the browser is back on its line', async () => {
      let broken = false;
      answer = (request) => (broken ? Promise.resolve(new Response('x', { status: 500 })) : board()(request));
      await open();
      broken = true;
      await pause(3200);
      broken = false;
      asked = [];
      // By now the next poll is more than a second away.
      await tab.run(() => dispatchEvent(new Event('online')));
      for (let waited = 0; waited < 1000 && asked.length === 0; waited += 20) await pause(20);
      expect(asked.length).toBeGreaterThan(0);
    });
  });

  describe('focus', () => {
    test('a slow refusal does not take it from another field', async () => {
      const post = gate();
      answer = async (request) => {
        if (request.method !== 'POST') return board()(request);
        const exchange = await loom.exchange(request);
        await exchange.verify();
        await post.opened;
        return exchange.respond('board', { count: 1, refused: true, value: 'no' }, { status: 422 });
      };
      await open();
      await write('#text', 'no');
      await press('#send');
      await write('#draft', 'elsewhere');
      post.open();
      await until(tab, () => document.querySelector('#text')!.hasAttribute('aria-invalid'));
      expect(
        await tab.run(() => [document.activeElement!.id, document.querySelector<HTMLInputElement>('#text')!.value]),
      ).toEqual(['draft', 'no']);
    });

    test('of a row that goes, it passes to the next row, then to the heading', async () => {
      let rows = [1, 2, 3];
      answer = board((request) => {
        const row = new URL(request.url).searchParams.get('remove');
        rows = rows.filter((one) => String(one) !== row);
        return { rows };
      });
      await open();
      const remove = async (row: number) => {
        await tab.run((id: number) => {
          const button = document.querySelector<HTMLElement>(`#row-${id} button`)!;
          button.focus();
          button.click();
        }, row);
        await until(tab, (id: number) => document.querySelector(`#row-${id}`) === null, row);
        await calm();
        return tab.run(() => document.activeElement!.textContent);
      };
      expect([await remove(2), await remove(3), await remove(1)]).toEqual(['remove 3', 'remove 1', 'Box']);
    });

    test('autofocus counts for new content alone', async () => {
      await open();
      await tab.run(() => (document.activeElement as HTMLElement).blur());
      await press('#next');
      await shows('#count', '2');
      await calm();
      expect(await tab.run(() => document.activeElement!.id)).toBe('');
    });
  });

  describe('typing', () => {
    test('what is typed while a form is on its way is sent after it; what is composed is no text yet', async () => {
      let saved = '';
      const first = gate();
      let posts = 0;
      answer = async (request) => {
        const exchange = await loom.exchange(request);
        if (request.method === 'POST') {
          const body = await request.clone().formData();
          await exchange.verify();
          if (posts++ === 0) await first.opened;
          saved = String(body.get('text'));
        }
        return exchange.respond('save', { saved });
      };
      await open();
      await write('#text', 'a');
      await comes(() => posts > 0);
      await write('#text', 'abc');
      await pause(100);
      first.open();
      await shows('#saved', 'abc');
      expect([posts, await tab.run(() => document.querySelector<HTMLInputElement>('#text')!.value)]).toEqual([
        2,
        'abc',
      ]);
      await tab.run(() => {
        const field = document.querySelector<HTMLInputElement>('#text')!;
        field.value = 'abcに';
        field.dispatchEvent(new InputEvent('input', { bubbles: true, isComposing: true }));
      });
      await pause(150);
      expect(posts).toBe(2);
      await tab.run(() =>
        document.querySelector('#text')!.dispatchEvent(new CompositionEvent('compositionend', { bubbles: true })),
      );
      await shows('#saved', 'abcに');
    });
  });

  describe('links as the browser would', () => {
    test('fragments ask nothing, and their history is right', async () => {
      await open();
      const before = pages().length;
      await press('#place');
      await until(tab, () => location.hash === '#end' && scrollY > 1000);
      await press('#top');
      await until(tab, () => scrollY === 0);
      await tab.back();
      await until(tab, () => location.hash === '#end');
      await tab.back();
      await until(tab, () => location.hash === '');
      await pause(100);
      expect([pages().length, await isSame()]).toEqual([before, true]);
      await press('#to-end');
      await shows('#count', '4');
      await until(tab, () => location.hash === '#end' && scrollY > 1000);
    });

    test('a base and its target are the page’s own; text that is edited has no links', async () => {
      await open();
      expect([await takes('#next'), await takes('#rich-link')]).toEqual([true, false]);
      answer = board(() => ({ base: true }));
      await open();
      expect(await takes('#next')).toBe(false);
    });

    test('a form goes to its own URL, whatever the base', async () => {
      answer = board(() => ({ base: true }));
      await open('/?n=5');
      await tab.run(() => document.querySelector('base')!.removeAttribute('target'));
      await press('#send');
      await comes(() => pages().at(-1) === 'POST /?n=5');
    });

    test('files are fetched once, and nothing is no failure', async () => {
      answer = async (request) => {
        const { pathname } = new URL(request.url);
        const headers = { 'content-type': 'text/csv', 'content-disposition': 'attachment; filename="report.csv"' };
        if (pathname === '/report.csv' || pathname === '/export') return new Response('a,b\n', { headers });
        if (pathname === '/nothing') return new Response(null, { status: 204 });
        return board()(request);
      };
      await open();
      await tab.run(() => {
        HTMLAnchorElement.prototype.click = function save() {
          document.body.dataset['saved'] = this.download;
        };
        HTMLElement.prototype.click.call(document.querySelector('#export'));
      });
      await until(tab, () => document.body.dataset['saved'] === 'report.csv');
      await tab.run(() => HTMLElement.prototype.click.call(document.querySelector('#nothing')));
      await calm();
      await pause(100);
      expect([
        pages().filter((one) => one === 'GET /export').length,
        pages().filter((one) => one === 'GET /nothing').length,
        await tab.run(() => document.querySelector('.loom-failure')),
      ]).toEqual([1, 1, null]);
      // What its URL says to be a file, the browser fetches itself.
      expect(await takes('#csv')).toBe(false);
    });

    test('a plain redirect to another site is followed by the browser', async () => {
      answer = (request) =>
        request.url.includes('/away')
          ? Promise.resolve(
              new Response(null, {
                status: 302,
                headers: { location: `${server.address.replace('127.0.0.1', 'localhost')}/?n=8` },
              }),
            )
          : board()(request);
      await open();
      await press('#away');
      await until(
        tab,
        () => location.hostname === 'localhost' && document.querySelector('#count')?.textContent === '8',
      );
    });

    test('pages of any name are answered in parts', async () => {
      answer = async (request) =>
        loom.respond(request, 'über/日本', { n: Number(new URL(request.url).searchParams.get('n') ?? 1) });
      await open();
      await press('#next');
      await shows('#count', '2');
      expect([asked.at(-1)!.page, await isSame()]).toEqual(['%C3%BCber/%E6%97%A5%E6%9C%AC site-layout', true]);
    });
  });

  describe('leaving', () => {
    test('what was drawn, typed and scrolled is there when the visitor comes back', async () => {
      answer = async (request) =>
        loom.respond(request, 'drawn', { n: Number(new URL(request.url).searchParams.get('n') ?? 1) });
      css = '#scroll { height: 50px; overflow: auto; } #long { height: 900px; }';
      await open();
      await until(tab, () => getComputedStyle(document.querySelector('#scroll')!).height === '50px');
      await tab.run(async () => {
        const box = document.querySelector('#scroll')!;
        const scrolled = new Promise((done) => box.addEventListener('scroll', done, { once: true }));
        document.querySelector<HTMLCanvasElement>('#canvas')!.getContext('2d')!.fillRect(0, 0, 10, 10);
        box.scrollTop = 200;
        document.querySelector<HTMLInputElement>('#draft')!.value = 'typed';
        await scrolled;
      });
      await press('#next');
      await shows('#count', '2');
      await tab.back();
      await shows('#count', '1');
      expect(
        await tab.run(() => [
          document.querySelector<HTMLCanvasElement>('#canvas')!.getContext('2d')!.getImageData(5, 5, 1, 1).data[3],
          document.querySelector('#scroll')!.scrollTop,
          document.querySelector<HTMLInputElement>('#draft')!.value,
        ]),
      ).toEqual([255, 200, 'typed']);
    });

    test('after signing out in another tab, going back shows nothing private', async () => {
      let isIn = true;
      answer = async (request) => {
        const exchange = await loom.exchange(request);
        const { pathname, searchParams } = new URL(request.url);
        if (pathname === '/sign-out') isIn = false;
        if (pathname === '/' && isIn) return exchange.respond('private', { n: Number(searchParams.get('n') ?? 1) });
        return pathname === '/' ? exchange.redirect('/sign-in') : exchange.respond('sign-in');
      };
      await open();
      await press('#next');
      await shows('#count', 'secret 2');
      const other = await tab.sibling();
      await other.goto(`${server.address}/sign-out`);
      await until(other, () => document.querySelector('#loom-announcer') !== null);
      await tab.run(() => {
        new MutationObserver(() => {
          if (document.body.textContent?.includes('secret 1')) Object.assign(globalThis, { seen: true });
        }).observe(document, { subtree: true, childList: true, characterData: true });
      });
      await tab.back();
      await until(tab, () => document.querySelector('#sign-in') !== null);
      expect(await tab.run(() => [location.pathname, 'seen' in globalThis])).toEqual(['/sign-in', false]);
    });
  });

  describe('documents', () => {
    test('attributes of html and body follow', async () => {
      answer = board((request) => (request.url.includes('n=2') ? { dark: true, lang: 'de' } : {}));
      await open();
      await tab.run(() => document.body.classList.add('of-a-script'));
      await press('#next');
      await shows('#count', '2');
      const state = () =>
        tab.run(() => [
          document.documentElement.className,
          document.documentElement.lang,
          document.body.dataset['dark'] ?? null,
          document.body.className,
        ]);
      expect(await state()).toEqual(['dark', 'de', 'yes', 'of-a-script']);
      await press('#place');
      await tab.back();
      await tab.back();
      await shows('#count', '1');
      expect(await state()).toEqual(['', 'en', null, 'of-a-script']);
    });

    test('an empty file field does not change how a form is sent; a file that was sent is chosen no more', async () => {
      await open();
      await tab.run(() => document.querySelector('#file-form')!.removeAttribute('enctype'));
      await press('#send-file');
      await calm();
      expect(asked.filter(({ what }) => what.startsWith('POST')).at(-1)!.type).toMatch(
        /^application\/x-www-form-urlencoded/,
      );
      await tab.run(() => {
        const files = new DataTransfer();
        files.items.add(new File(['x'], 'x.txt'));
        document.querySelector<HTMLInputElement>('#file')!.files = files.files;
      });
      await press('#send-file');
      await until(tab, () => document.querySelector<HTMLInputElement>('#file')!.value === '');
      expect(asked.filter(({ what }) => what.startsWith('POST')).at(-1)!.type).toMatch(/^multipart\/form-data/);
    });
  });

  test('a form with a file may take longer, for nobody tells how far it has come', async () => {
    const slow = gate();
    answer = async (request) => {
      const exchange = await loom.exchange(request);
      if (request.method === 'POST') {
        await exchange.verify();
        await slow.opened;
      }
      return exchange.respond('quick', { count: request.method });
    };
    await open();
    await tab.run(() => {
      const files = new DataTransfer();
      files.items.add(new File(['x'], 'x.txt'));
      document.querySelector<HTMLInputElement>('#file')!.files = files.files;
    });
    await press('#send-file');
    // Twice as long as the client waits for others.
    await pause(800);
    expect(await tab.run(() => document.querySelector('.loom-failure'))).toBeNull();
    slow.open();
    await shows('#count', 'POST');
  });

  test('what was typed just before going back is sent', async () => {
    let draft = '';
    answer = async (request) => {
      const exchange = await loom.exchange(request);
      if (request.method === 'POST') {
        const body = await request.clone().formData();
        await exchange.verify();
        draft = String(body.get('text'));
      }
      return exchange.respond('save', { saved: draft });
    };
    await open('/');
    await tab.click('#next');
    await until(tab, () => location.search === '?n=2');
    await tab.run(() => {
      const field = document.querySelector<HTMLInputElement>('#text')!;
      field.value = 'last word';
      field.dispatchEvent(new InputEvent('input', { bubbles: true }));
      history.back();
    });
    await until(tab, () => location.search === '');
    await comes(() => draft === 'last word');
    await shows('#saved', 'last word');
  });

  test('what is typed while the page that was gone back to is awaited stays', async () => {
    let value = '';
    const slow = gate();
    let isSlow = false;
    answer = async (request) => {
      if (isSlow && request.method === 'GET') await slow.opened;
      return board(() => ({ value }))(request);
    };
    await open();
    await tab.click('#next');
    await shows('#count', '2');
    await press('#send');
    await comes(() => pages().some((what) => what.startsWith('POST')));
    await calm();
    value = 'server';
    isSlow = true;
    await tab.back();
    await until(tab, () => location.search === '');
    await tab.click('#text');
    await tab.type('mine');
    slow.open();
    await shows('#count', '1');
    expect(await tab.run(() => document.querySelector<HTMLInputElement>('#text')!.value)).toBe('mine');
  });

  test('what has changed meanwhile is shown where one has gone back to, whatever has the focus', async () => {
    let value = '';
    const slow = gate();
    let isSlow = false;
    answer = async (request) => {
      if (isSlow && !request.headers.has('loom-only')) await slow.opened;
      return board(() => ({ value }))(request);
    };
    await open();
    await tab.click('#next');
    await shows('#count', '2');
    value = 'server';
    isSlow = true;
    await tab.back();
    await shows('#count', '1');
    await tab.click('#text');
    slow.open();
    await until(tab, () => document.querySelector<HTMLInputElement>('#text')!.value === 'server');
  });

  describe('messages', () => {
    test('in the page’s language, where they may stand, and longer than a poll', async () => {
      let broken = false;
      answer = (request) =>
        broken && !request.headers.has('loom-only')
          ? Promise.resolve(new Response('x', { status: 503 }))
          : board(() => ({ lang: 'de' }))(request);
      await open();
      broken = true;
      await press('#cell');
      await shows('.loom-failure', 'Der Server hat mit 503 geantwortet. Was Sie eingegeben haben, ist noch da.');
      await pause(400);
      expect(
        await tab.run(() => [
          document.querySelector('.loom-failure')!.nextElementSibling!.tagName,
          document.querySelector('.loom-failure button')!.textContent,
        ]),
      ).toEqual(['TABLE', 'Noch einmal versuchen']);
      await tab.run(() => document.documentElement.setAttribute('data-loom-texts', '{"status":"Nope {status}."}'));
      await press('#cell');
      await shows('.loom-failure', 'Nope 503.');
      expect(await tab.run(() => document.querySelectorAll('.loom-failure').length)).toBe(1);
    });

    test('a form of somebody who signed out elsewhere: it says so, and what was typed stays', async () => {
      answer = async (request) => {
        const exchange = await loom.exchange(request);
        if (request.method !== 'POST') return exchange.respond('board', { count: 1 });
        await exchange.verify();
        return exchange.respond('sign-in', {}, { status: 403 });
      };
      await open();
      await write('#text', 'precious');
      await press('#send');
      await shows('.loom-failure', 'Perhaps you signed out in another tab.');
      expect(await tab.run(() => document.querySelector<HTMLInputElement>('#text')!.value)).toBe('precious');
    });
  });

  describe('another page in place', () => {
    beforeEach(() => {
      answer = (request) => loom.respond(request, new URL(request.url).pathname === '/whole' ? 'whole' : 'start');
    });

    test('what stays keeps what is typed, and back is right', async () => {
      await open();
      await write('#beside', 'typed');
      await press('#to-whole');
      await until(tab, () => document.querySelector('#whole') !== null);
      expect(
        await tab.run(() => [
          location.pathname,
          document.querySelector<HTMLInputElement>('#beside')!.value,
          document.activeElement!.id,
        ]),
      ).toEqual(['/whole', 'typed', 'beside']);
      await tab.back();
      await shows('h1', 'Start 1');
      expect([await isSame(), await tab.run(() => location.pathname)]).toEqual([true, '/']);
    });

    test.each([false, true])(
      'in a transition where the page’s styles ask for one; less motion is wanted: %s',
      async (isLess) => {
        css = '@media (min-width: 1px) { @view-transition { navigation: auto; } }';
        await open();
        await until(tab, () => document.styleSheets.length > 0);
        const isAsked = await tab.run((less: boolean) => {
          const own = window.matchMedia.bind(window);
          window.matchMedia = (query) =>
            query.includes('prefers-reduced-motion') ? ({ matches: less } as MediaQueryList) : own(query);
          const page = document as unknown as { startViewTransition?: (work: () => void) => unknown };
          const move = page.startViewTransition?.bind(document);
          if (move)
            page.startViewTransition = (work) => {
              document.documentElement.dataset['moved'] = 'yes';
              return move(work);
            };
          const rules = [...document.styleSheets].map((sheet) => (sheet.cssRules[0] as CSSMediaRule).cssRules[0]);
          return move !== undefined && rules.some((rule) => rule !== undefined && 'navigation' in rule);
        }, isLess);
        await press('#to-whole');
        await until(tab, () => document.querySelector('#whole') !== null);
        expect(await tab.run(() => document.documentElement.dataset['moved'] ?? 'no')).toBe(
          isAsked && !isLess ? 'yes' : 'no',
        );
      },
    );
  });
});
