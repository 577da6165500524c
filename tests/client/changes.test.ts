/** Changes by name in browsers: where they go, what they keep, how they come, and how an answer of them ends. */
import { resolve } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { type Changes, type ChangesSource, createLoom, type Loom, put, reload, remove, trustedHTML } from 'zip-loom';
import { bundle } from '../support/bundle.ts';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, isSameWindow, openWithClient, type Tab, until, untilText } from '../support/engines/index.ts';
import { gate } from '../support/gate.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const sources = {
  'partials/entry-row.html':
    '<meta (takes id, text)><tr id="row-${id}"><td><input id="note-${id}"></td><td>${text}</td></tr>',
  'partials/list-item.html': '<meta (takes id, text = "new")><li id="item-${id}">${text} <input id="field-${id}"></li>',
  'partials/own-part.html': '<meta (takes n)><p (region part-${n})>part ${n}</p>',
  'partials/two-dots.html': '<meta (takes n)><circle id="dot-${n}" r="1"/><circle r="2"/>',
  'partials/harbour-link.html': '<a id="drawn-link" href="/x"><circle r="3"/></a>',
  'pages/board.html': `<meta (takes count, more = [])><!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Board</title><script type="module" async src="/client.js"></script></head><body>
<section (region board)><h2 id="count">\${count}</h2><a id="go" href="/?go">go</a> <a id="other" href="/?other">other</a>
<form method="post"><input id="typed" name="typed"><button id="send">send</button></form>
<ul id="list"><li id="item-1">one <input id="field-1"></li><li id="item-2">two <input id="field-2"></li><li (for x of more) id="item-\${x}">\${x}</li></ul></section>
<table><tbody (region rows)><tr id="row-1"><td><input id="note-1"></td><td>one</td></tr></tbody></table>
<svg><g id="drawing"><circle id="dot-1" r="9"></circle></g></svg>
<select id="choice"><option value="a">a</option></select>
<div id="progress">none</div><p (region clock)>\${count}</p></body></html>`,
  'pages/quick.html':
    '<meta (takes count)><!doctype html><html lang="en"><head><meta charset="utf-8"><title>Quick</title><script type="module" async src="/quick.js"></script></head><body><section (region board)><b id="count">${count}</b><form method="post"><button id="send">send</button></form><div id="log"></div></section></body></html>',
  'pages/result.html':
    '<meta (takes text)><!doctype html><html lang="de"><head><meta charset="utf-8"><title>Result</title></head><body class="result"><h1 id="result">${text}</h1><p (region foot)>x</p></body></html>',
};

let loom: Loom;
let server: PagesServer;
let count: number;
let changes: ChangesSource;
let asked: string[];
let hasLeft: boolean;

beforeAll(async () => {
  loom = await createLoom({ sources, secret, logger: quietLogger, mode: 'production' });
  const quick = bundle(
    `import { start } from ${JSON.stringify(resolve('packages/zip-loom/src/client/index.ts'))}; start({ requestTimeout: 300 });`,
  );
  server = await openPagesServer(async (request) => {
    const { search, pathname } = new URL(request.url);
    const header = (name: string) => request.headers.get(`loom-${name}`) ?? '';
    asked.push(`${request.method} ${pathname}${search} ${header('only') || header('region')}`);
    if (pathname === '/quick.js') return new Response(quick, { headers: { 'content-type': 'text/javascript' } });
    if (pathname === '/raw')
      return new Response(raw, { headers: { 'content-type': 'text/html', 'loom-answer': kind } });
    const exchange = await loom.exchange(request);
    if (request.method === 'POST') await exchange.verify();
    const isChanges = request.method === 'POST' || search === '?go';
    if (!isChanges) return exchange.respond(pathname === '/quick' ? 'quick' : 'board', { count });
    return exchange.changes(
      async function* (signal) {
        signal.addEventListener('abort', () => {
          hasLeft = true;
        });
        yield* (typeof changes === 'function' ? changes(signal) : changes) as Changes & AsyncIterable<never>;
      },
      { fallback: exchange.page('board', { count }) },
    );
  });
});
afterAll(() => server?.close());

let raw = '';
let kind = 'parts';

describeIn(engines, (visitor) => {
  let tab: Tab;
  beforeEach(async () => {
    [count, asked, hasLeft, kind] = [1, [], false, 'parts'];
    tab = visitor();
    await openWithClient(tab, `${server.address}/`);
  });
  const press = (selector: string) =>
    tab.run((where: string) => document.querySelector<HTMLElement>(where)!.click(), selector);
  const shows = (selector: string, text: string) => untilText(tab, selector, text);
  const ids = (selector: string) =>
    tab.run((where: string) => [...document.querySelectorAll(where)].map(({ id }) => id), selector);
  const calm = () => until(tab, () => document.querySelector('[aria-busy], [aria-disabled]') === null);
  /** Makes changes and waits for the last of them. */
  const make = async (...some: Parameters<typeof Array.of<ReturnType<typeof remove>>>) => {
    changes = [...some, put(trustedHTML(`done ${some.length} ${Math.random()}`)).inside('progress')];
    await press('#send');
    await until(tab, () => document.querySelector('#progress')?.textContent?.startsWith('done'));
    await calm();
    await tab.run(() => void document.querySelector('#progress')?.replaceChildren());
  };

  describe('where they go', () => {
    test.each([
      ['at the start', () => put('list-item', { id: 9 }).atStartOf('list'), ['item-9', 'item-1', 'item-2']],
      ['at the end', () => put('list-item', { id: 9 }).atEndOf('list'), ['item-1', 'item-2', 'item-9']],
      ['before', () => put('list-item', { id: 9 }).before('item-2'), ['item-1', 'item-9', 'item-2']],
      ['after', () => put('list-item', { id: 9 }).after('item-1'), ['item-1', 'item-9', 'item-2']],
      ['in place', () => put('list-item', { id: 9 }).inPlaceOf('item-1'), ['item-9', 'item-2']],
      ['inside', () => put('list-item', { id: 9 }).inside('list'), ['item-9']],
      ['nowhere', () => put('list-item', { id: 9 }).atEndOf('no-such'), ['item-1', 'item-2']],
      ['away', () => remove('item-1'), ['item-2']],
      ['away from nowhere', () => remove('item-77'), ['item-1', 'item-2']],
      ['away and back', () => [remove('item-1'), put('list-item', { id: 1 }).atEndOf('list')], ['item-2', 'item-1']],
      ['into what is gone', () => [remove('list'), put('list-item', { id: 9 }).atEndOf('list')], []],
      [
        'in place, then into it',
        () => [put('list-item', { id: 9 }).inPlaceOf('item-1'), put('list-item', { id: 8 }).after('item-9')],
        ['item-9', 'item-8', 'item-2'],
      ],
      ['again at an edge', () => put('list-item', { id: 1 }).atEndOf('list'), ['item-1', 'item-2']],
      ['again elsewhere', () => put('list-item', { id: 1 }).after('item-2'), ['item-2', 'item-1']],
      ['in its own place', () => put('list-item', { id: 2 }).inPlaceOf('item-2'), ['item-1', 'item-2']],
    ])('%s', async (_name, change, expected) => {
      await make(...[change()].flat());
      expect(await ids('#list > li')).toEqual(expected);
    });

    test('rows, options, drawings and links in drawings', async () => {
      await make(
        put('entry-row', { id: 2, text: 'two' }).atEndOf('rows'),
        put(trustedHTML('<option id="option-b" value="b">b')).atStartOf('choice'),
        put('two-dots', { n: 2 }).atEndOf('drawing'),
        put('harbour-link').before('dot-1'),
      );
      expect(await ids('tbody > tr')).toEqual(['row-1', 'row-2']);
      expect(await ids('#choice > option')).toEqual(['option-b', '']);
      expect(
        await tab.run(() =>
          [...document.querySelectorAll('#drawing *')].map((one) => [one.localName, one instanceof SVGElement]),
        ),
      ).toEqual([
        ['a', true],
        ['circle', true],
        ['circle', true],
        ['circle', true],
        ['circle', true],
      ]);
    });

    test('regions of the server take part from then on, those of visitors never', async () => {
      await make(
        put('own-part', { n: 1 }).atEndOf('board'),
        put(trustedHTML('<p data-loom-region="clock" id="false-clock">x</p>')).atEndOf('board'),
      );
      await make(put(trustedHTML('<b id="in-part">!</b>')).inside('part-1'));
      expect(await ids('[data-loom-region=part-1] > b')).toEqual(['in-part']);
      expect(await tab.run(() => document.querySelector('#false-clock')!.hasAttribute('data-loom-region'))).toBe(false);
    });
  });

  test('what is put again keeps what was typed and the focus, and a node of a script is left alone', async () => {
    await tab.run(() => {
      const field = document.querySelector<HTMLInputElement>('#field-2')!;
      field.focus();
      field.value = 'typed';
      field.dispatchEvent(new InputEvent('input', { bubbles: true }));
      document.querySelector('#list')!.append(Object.assign(document.createElement('li'), { id: 'own' }));
      Object.assign(globalThis, { field });
    });
    await make(
      put('list-item', { id: 2, text: 'changed' }).atStartOf('list'),
      put('list-item', { id: 3 }).before('own'),
    );
    expect(
      await tab.run(() => {
        const { field } = globalThis as unknown as { field: HTMLInputElement };
        return [field.value, field === document.querySelector('#field-2'), document.activeElement?.id];
      }),
    ).toEqual(['typed', true, 'field-2']);
    expect(await ids('#list > li')).toEqual(['item-1', 'item-2', 'item-3', 'own']);
    await shows('#item-2', 'changed');
  });

  test('the focus of what goes passes to the next row', async () => {
    await tab.run(() => document.querySelector<HTMLElement>('#field-1')!.focus());
    await make(remove('item-1'));
    expect(await tab.run(() => document.activeElement?.id)).toBe('field-2');
  });

  test('a region that was changed so is sent again when it is asked for', async () => {
    await make(put('list-item', { id: 9 }).atEndOf('list'));
    await press('#other');
    await until(tab, () => location.search === '?other');
    await calm();
    expect(await ids('#list > li')).toEqual(['item-1', 'item-2']);
  });

  test('the browser asks again itself, for a region and for the page', async () => {
    count = 5;
    await make(reload('clock'), reload('no-such'));
    await shows('[data-loom-region=clock]', '5');
    expect(asked.filter((one) => one.startsWith('GET'))).toEqual(['GET / ', 'GET / clock']);
    count = 6;
    changes = [reload('page')];
    await press('#send');
    await shows('#count', '6');
  });

  test('only what is at the top of an answer of this server is obeyed', async () => {
    raw =
      '<div><template data-loom-put="inside progress">caught</template></div><template data-loom-put="at-end-of list"><li id="top"><template data-loom-remove="item-1"></template></li></template>';
    await tab.run(async () => {
      const link = document.querySelector<HTMLAnchorElement>('#go')!;
      link.href = '/raw';
      link.click();
    });
    await until(tab, () => document.querySelector('#top') !== null);
    expect([await ids('#list > li'), await tab.run(() => document.querySelector('#progress')!.textContent)]).toEqual([
      ['item-1', 'item-2', 'top'],
      'none',
    ]);
  });

  describe('as they come', () => {
    test('each is applied when it has arrived, and the form may not be sent twice meanwhile', async () => {
      const [next, last] = [gate(), gate()];
      changes = async function* () {
        yield put(trustedHTML('first')).inside('progress');
        await next.opened;
        yield put(trustedHTML('second')).inside('progress');
        await last.opened;
      };
      await tab.click('#typed');
      await tab.type('Tern');
      await press('#send');
      await shows('#progress', 'first');
      await press('#send');
      // Other links are answered meanwhile.
      count = 2;
      await press('#other');
      await shows('#count', '2');
      next.open();
      await shows('#progress', 'second');
      last.open();
      await calm();
      expect(asked.filter((one) => one.startsWith('POST'))).toHaveLength(1);
    });

    test('a form that was taken is empty again', async () => {
      await tab.click('#typed');
      await tab.type('Tern');
      await make(remove('item-1'));
      expect(await tab.run(() => document.querySelector<HTMLInputElement>('#typed')!.value)).toBe('');
    });

    test('the end may be the page itself, or another', async () => {
      const page = (await loom.exchange(new Request('http://harbour.test/'))).page;
      changes = [put(trustedHTML('first')).inside('progress'), page('board', { count: 7, more: [8] })] as never;
      await press('#send');
      await shows('#count', '7');
      expect([await ids('#list > li'), await tab.run(() => document.querySelector('#progress')!.textContent)]).toEqual([
        ['item-1', 'item-2', 'item-8'],
        'none',
      ]);
      changes = [page('result', { text: 'All & done' })] as never;
      await press('#send');
      await shows('#result', 'All & done');
      expect([
        await tab.run(() => [document.title, document.documentElement.lang, document.body.className]),
        await isSameWindow(tab),
      ]).toEqual([['Result', 'de', 'result'], true]);
    });

    test('an error in the middle is told, and nothing of it', async () => {
      changes = async function* () {
        yield put(trustedHTML('first')).inside('progress');
        throw new Error('a secret');
      };
      await press('#send');
      await shows('.loom-failure', 'The server could not finish this.');
      expect(await tab.run(() => document.body.textContent!.includes('secret'))).toBe(false);
      await calm();
    });

    test('who looks at something else ends the work', async () => {
      changes = async function* (signal) {
        for (let n = 0; !signal.aborted; n++) {
          yield put(trustedHTML(`line ${n}`)).inside('progress');
          await new Promise((go) => setTimeout(go, 20));
        }
      };
      await press('#go');
      await shows('#progress', 'line');
      await press('#other');
      await until(tab, () => location.search === '?other');
      const end = Date.now() + 5000;
      while (!hasLeft && Date.now() < end) await new Promise((go) => setTimeout(go, 20));
      expect(hasLeft).toBe(true);
      await calm();
    });

    test('an answer that stalls is told of, goes on when it goes on, and ends', async () => {
      await openWithClient(tab, `${server.address}/quick`);
      const [next, last] = [gate(), gate()];
      changes = async function* () {
        await next.opened;
        yield put(trustedHTML('<i>late</i>')).atEndOf('log');
        await last.opened;
      };
      await press('#send');
      await shows('.loom-failure', 'The server has not answered.');
      // What the server has done meanwhile is asked, and changes nothing of this.
      while (!asked.includes('GET /quick page')) await new Promise((go) => setTimeout(go, 20));
      await new Promise((go) => setTimeout(go, 200));
      next.open();
      await shows('#log', 'late');
      last.open();
      await calm();
      await until(tab, () => document.querySelector('.loom-failure') === null);
      expect(asked.filter((one) => one.startsWith('POST'))).toHaveLength(1);
    });

    test('an answer that is cut off is a failure', async () => {
      raw = '<template data-loom-put="inside progress">half</template>\n<template data-loom-put="inside progr';
      kind = 'changes';
      await tab.run(() => {
        const link = document.querySelector<HTMLAnchorElement>('#go')!;
        link.href = '/raw';
        link.click();
      });
      await shows('.loom-failure', 'The answer was cut off.');
      await shows('#progress', 'half');
    });

    test('a change that arrives in pieces is applied whole', async () => {
      changes = [put(trustedHTML(`<p id="long">${'word '.repeat(100_000)}</p>`)).inside('progress'), remove('item-1')];
      await press('#send');
      await until(tab, () => document.querySelector('#item-1') === null);
      expect(await tab.run(() => document.querySelector('#long')!.textContent!.length)).toBe(500_000);
    });
  });
});
