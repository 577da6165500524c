/** A thousand regions: lists stay short, answers bring what has changed alone, and the page is what the server says. */
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, put, reload } from 'zip-loom';
import { describeIn } from '../support/engines/describe-in.ts';
import { engines, openWithClient, type Tab, until } from '../support/engines/index.ts';
import { openPagesServer, type PagesServer } from '../support/pages-server.ts';
import { quietLogger, secret } from '../support/settings.ts';

const page = (list: string) =>
  `<meta (takes rows, turn)><!doctype html><html lang="en"><head><meta charset="utf-8"><title>Rows</title><script type="module" async src="/client.js"></script></head><body><p (region top)><a id="go" href="/?turn=\${turn + 1}" data-loom-update="top">\${turn}</a></p>${list}<p (region foot)>\${rows.length}</p></body></html>`;
const row =
  '<tr (for row of rows) (region stay-${row.id})><td>${row.text}</td><td (region boat-${row.id})>${row.boat}</td></tr>';
const sources = {
  'partials/stay-row.html': '<meta (takes row)><tr (region stay-${row.id})><td>put</td></tr>',
  'pages/inside.html': page(`<table (region stays)><tbody>${row}</tbody></table>`),
  'pages/outside.html': page(`<table><tbody>${row}</tbody></table>`),
};

interface Row {
  id: number;
  text: string;
  boat: string;
}

let loom: Loom;
let server: PagesServer;
let name: string;
let rows: Row[];
let wanted: string[];
let answers: Array<{ path: string; list: number; length: number; listed: number }>;

beforeAll(async () => {
  loom = await createLoom({ sources, secret, logger: quietLogger, mode: 'production' });
  server = await openPagesServer(async (request) => {
    const { pathname, searchParams } = new URL(request.url);
    const exchange = await loom.exchange(request);
    const only = request.headers.get('loom-only');
    if (only) wanted.push(only);
    if (pathname === '/again')
      return exchange.changes(
        rows.map(({ id }) => reload(`stay-${id}`)),
        { fallback: '/' },
      );
    if (pathname === '/put') {
      const row = { id: 5, text: 'x', boat: 'x' };
      return exchange.changes(
        [put('stay-row', { row }).atEndOf('no-such'), put('stay-row', { row }).inPlaceOf('stay-5')],
        {
          fallback: '/',
        },
      );
    }
    const response = await exchange.respond(name, { rows, turn: Number(searchParams.get('turn') ?? 0) });
    const text = await response.clone().text();
    const [, listed = ''] = /data-loom-digests="([^"]*)"/.exec(text) ?? [];
    answers.push({
      path: pathname + new URL(request.url).search,
      list: request.headers.get('loom-digests')?.length ?? -1,
      length: text.length,
      listed: listed.split('=').length - 1,
    });
    return response;
  });
});
afterAll(() => server?.close());

/** A step of a generator that is the same each time. */
const randomly = (seed: number) => () => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
};

describeIn(engines, (visitor) => {
  let tab: Tab;
  let turn: number;
  beforeEach(() => {
    tab = visitor();
    [turn, answers, wanted] = [0, [], []];
    rows = Array.from({ length: 1000 }, (_, at) => ({ id: at, text: `stay ${at}`, boat: `boat ${at}` }));
  });
  const go = async () => {
    turn++;
    await tab.run(() => document.querySelector<HTMLElement>('#go')!.click());
    await until(
      tab,
      (wanted: string) =>
        document.querySelector('#go')!.textContent === wanted && document.querySelector('[aria-busy]') === null,
      String(turn),
    );
    return answers.at(-1)!;
  };
  const shown = () =>
    tab.run(() =>
      [...document.querySelectorAll('tr')].map((one) => [...one.children].map((cell) => cell.textContent).join()),
    );
  const expected = () => rows.map(({ text, boat }) => `${text},${boat}`);

  describe.each(['inside', 'outside'])('%s a region', (where) => {
    beforeEach(async () => {
      name = where;
      await openWithClient(tab, `${server.address}/`);
    });

    test('one changed row costs a few', async () => {
      // The first page of a visitor, whose client was not there yet, has digests already.
      rows[500]!.text = 'changed';
      const { list, length, listed } = await go();
      expect(await shown()).toEqual(expected());
      expect([list > 0 && list < 4096, length < 5000, listed < 60]).toEqual([true, true, true]);
      // What was not told is had all the same.
      const next = await go();
      // Where the link is a region of the page like each row, some rows share its bucket.
      expect([next.list < 4096, next.length < (where === 'inside' ? 800 : 4000)]).toEqual([true, true]);
    });

    test('whatever changes, the page is what the server says', async () => {
      const random = randomly(where.length);
      const any = () => Math.floor(random() * rows.length);
      const changes: Array<() => void> = [
        () => void rows.splice(any(), 1),
        () => void rows.splice(any(), 0, { id: 1000 + turn, text: `new ${turn}`, boat: 'new' }),
        () => void Object.assign(rows[any()]!, { boat: `boat ${turn}` }),
        () => void Object.assign(rows[any()]!, { text: `text ${turn}` }),
        () => void rows.unshift(rows.pop()!),
        () => void rows.splice(3, 2, { ...rows[3]!, boat: rows[4]!.boat }, { ...rows[4]!, boat: rows[3]!.boat }),
        () => void rows.splice(20),
        () => {},
      ];
      for (const change of [...changes, ...changes.slice(0, 6)]) {
        change();
        expect((await go()).list).toBeLessThan(4096);
        expect([turn, await shown()]).toEqual([turn, expected()]);
      }
    });
  });

  test('many regions that are asked for together come in several requests', async () => {
    name = 'inside';
    await openWithClient(tab, `${server.address}/`);
    for (const row of rows) row.text = 'again';
    await tab.run(() => {
      const link = document.querySelector<HTMLAnchorElement>('#go')!;
      link.href = '/again';
      link.click();
    });
    await until(tab, () => [...document.querySelectorAll('tr')].every((one) => one.textContent!.startsWith('again')));
    expect(wanted.every((only) => only.length < 4096)).toBe(true);
    expect(wanted.flatMap((only) => only.split(', ')).sort()).toEqual(rows.map(({ id }) => `stay-${id}`).sort());
  });

  test('a row that was changed by name is sent again', async () => {
    name = 'inside';
    await openWithClient(tab, `${server.address}/`);
    await tab.run(() => {
      const link = document.querySelector<HTMLAnchorElement>('#go')!;
      link.href = '/put';
      link.click();
    });
    await until(tab, () => document.body.textContent!.includes('put'));
    await until(tab, () => document.querySelector('[aria-busy]') === null);
    await tab.run(() => {
      document.querySelector<HTMLAnchorElement>('#go')!.href = '/?turn=1';
    });
    await go();
    expect(await shown()).toEqual(expected());
  });
});
