/** What the server sends to a browser that says what it has. */

import { describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, type LoomOptions } from 'zip-loom';
import { quietLogger, secret } from '../support/settings.ts';
import { errors } from '../support/templates.ts';

const sources = {
  'layouts/site-layout.html':
    '<!doctype html>\n<html><head><title>T</title></head><body><nav (region account)>${context.visitor ?? "nobody"}</nav><flash-messages></flash-messages><main><slot></slot></main></body></html>',
  'pages/list.html':
    '<meta (layout site-layout) (takes heading, rows, secret = () => "")><h1>${heading}</h1><table (region table)><tr (for row of rows) (region row-${row.id})><td>${row.text}</td></tr></table><p (region slow)>${secret()}</p>',
  'pages/other.html': '<meta (layout site-layout)><p (region only-here)>x</p>',
  'pages/plain.html': '<p>no regions</p>',
  'pages/form.html':
    '<meta (takes n)><form method="post" (region box)><input name="x"></form><p (region beside)>${n}</p>',
};
const rows = [
  { id: 1, text: 'one' },
  { id: 2, text: 'two' },
];

interface Browser {
  loom: Loom;
  has: string;
  page: string;
}

const address = 'http://harbour.test/';

async function browser(
  data: object = { heading: 'H', rows },
  page = 'list',
  options: LoomOptions = {},
): Promise<Browser> {
  const loom = await createLoom({
    sources,
    secret,
    logger: quietLogger,
    ...options,
  });
  const text = await (
    await loom.respond(new Request(address, { headers: { cookie: 'loom-client=1' } }), page, data)
  ).text();
  const [, name = '', has = ''] =
    /<template data-loom-page="([^"]*)" data-loom-mark="[\w-]{8}" data-loom-digests="([^"]*)"><\/template>\n<\/body>/.exec(
      text,
    ) ??
    /data-loom-page="([^"]*)"[^>]*data-loom-digests="([^"]*)"/.exec(text) ??
    [];
  return { loom, has, page: name };
}

async function asks(
  from: Browser,
  name: string,
  page: string,
  data: object,
  headers: Record<string, string> = {},
  init: { method?: string; status?: number } = {},
) {
  const request = new Request(address, {
    method: init.method ?? 'GET',
    headers: {
      'loom-region': name,
      'loom-page': from.page,
      'loom-digests': from.has,
      'sec-fetch-site': 'same-origin',
      ...headers,
    },
  });
  const exchange = await from.loom.exchange(request);
  if (init.method) await exchange.verify();
  const response = await exchange.respond(page, data, init.status ? { status: init.status } : {});
  const text = await response.text();
  return { response, text, sent: [...text.matchAll(/data-loom-merge-into="([^"]+)"/g)].map((found) => found[1]) };
}

describe('a page', () => {
  test('names its regions, and ends with their digests where a client runs', async () => {
    const { page, has } = await browser();
    expect(page).toBe('list site-layout');
    expect(has).toMatch(
      /^page=[\w-]{8}, account=[\w-]{8}, flash=[\w-]{8}, table=[\w-]{8}, row-1=[\w-]{8}, row-2=[\w-]{8}, slow=[\w-]{8}$/,
    );
  });

  test('has no digests on a first visit, and no list without regions', async () => {
    const { loom } = await browser();
    const first = await (await loom.respond(new Request(address), 'list', { heading: 'H', rows })).text();
    expect(first).toMatch(
      /<template data-loom-page="list site-layout" data-loom-mark="[\w-]{8}"><\/template>\n<\/body>/,
    );
    expect(await (await loom.respond(new Request(address), 'plain')).text()).toBe('<p>no regions</p>');
  });

  test('depends on the headers of the client', async () => {
    const { loom } = await browser();
    expect((await loom.respond(new Request(address), 'plain')).headers.get('vary')).toBe(
      'Loom-Region, Loom-Page, Loom-Digests, Loom-Only',
    );
  });

  test('has the same digests as long as it shows the same, whatever its tokens and marks', async () => {
    const [one, two] = [await browser({ n: 1 }, 'form'), await browser({ n: 1 }, 'form')];
    const without = (has: string) => has.replace(/box=[\w-]+/, '');
    expect(without(one.has)).toBe(without(two.has));
    const three = await browser({ n: 2 }, 'form');
    expect(
      three.has
        .split(', ')
        .filter((pair) => !two.has.includes(pair))
        .map((pair) => pair.split('=')[0]),
    ).toContain('beside');
  });
});

describe('an answer', () => {
  test('holds nothing where nothing differs', async () => {
    const ada = await browser();
    const { response, sent, text } = await asks(ada, 'table', 'list', { heading: 'H', rows });
    expect([response.headers.get('loom-answer'), response.headers.get('cache-control'), sent]).toEqual([
      'parts',
      'no-store',
      [],
    ]);
    expect(text).toContain('<title>T</title>');
    expect(text).toContain('data-loom-digests="');
  });

  test.each([
    'page=/1:AAAAAAAA',
    'page=AAAAAAAA/256:AAAAAAAA',
    'page=/2:AAAAAAAA,AAAAAAAA',
    'table=/1.5:AAAAAAAA',
    'table=/-1:A, table=/0:A, table=/1e9:A, table=/999:A',
    'table=/:,,,, ,=,/=,=/, a=b=c, __proto__=/1:A, row-1=/1:A, row-1=x/1:A, no-such=x/1:A',
    `page=/256:${'AAAAAAAA,'.repeat(5000)}`,
    `page=AAAAAAAA/300:${Array(300).fill('AAAAAAAA').join()}`,
  ])('holds everything where the list says nothing true: %s', async (list) => {
    const ada = await browser();
    const { response, text } = await asks({ ...ada, has: list }, 'table', 'list', { heading: 'H', rows });
    expect(response.status).toBe(200);
    for (const shown of ['<h1>H</h1>', '<td>one</td>', '<td>two</td>', 'nobody']) expect(text).toContain(shown);
    // The list of the answer tells of all of it. Where a list does not say what is in each bucket, nothing is folded.
    const saysEach = /\/1:A{1,8}(?:,|$)|\/2:A{8},A{8}$/.test(list);
    expect(/data-loom-digests="[^"]*\//.test(text)).toBe(saysEach);
    expect(text).toContain(`data-loom-digests="${ada.has}`.replace(/=[\w-]{8}.*/, '='));
  });

  test('holds the inner region alone where only that differs, and those that nobody asked for', async () => {
    const ada = await browser();
    const changed = [rows[0]!, { id: 2, text: 'zwei' }];
    expect((await asks(ada, 'slow', 'list', { heading: 'H', rows: changed })).sent).toEqual(['row-2']);
  });

  test('holds unchanged inner regions as stubs', async () => {
    const ada = await browser();
    const { sent, text } = await asks(ada, 'table', 'list', {
      heading: 'H',
      rows: [{ id: 3, text: 'three' }, ...rows],
    });
    expect(sent).toEqual(['table']);
    expect(text).toMatch(
      /<table data-loom-region="table" data-loom-mark="[\w-]+"><tr data-loom-region="row-3" data-loom-mark="[\w-]+"><td>three<\/td><\/tr><tr data-loom-region="row-1" data-loom-kept><\/tr><tr data-loom-region="row-2" data-loom-kept><\/tr><\/table>/,
    );
  });

  test('holds the page with its regions as stubs where something outside differs', async () => {
    const ada = await browser();
    const { sent, text } = await asks(ada, 'table', 'list', { heading: 'New', rows });
    expect(sent).toEqual(['page']);
    expect(text).toMatch(
      /<template data-loom-merge-into="page"><nav data-loom-region="account" data-loom-kept><\/nav><div data-loom-region="flash" data-loom-kept><\/div><main><h1>New<\/h1><table data-loom-region="table" data-loom-kept><\/table><p data-loom-region="slow" data-loom-kept><\/p><\/main><\/template>/,
    );
  });

  test('without digests everything is sent', async () => {
    const ada = await browser();
    expect((await asks({ ...ada, has: '' }, 'table', 'list', { heading: 'H', rows })).sent).toEqual(['page']);
  });

  test('after a refusal only the asking region and messages are sent', async () => {
    const ada = await browser();
    const { sent } = await asks(ada, 'table', 'list', { heading: 'New', rows }, {}, { method: 'POST', status: 422 });
    expect(sent.sort()).toEqual(['flash', 'table']);
  });

  test('after a form was sent its region is sent although it is as before', async () => {
    const ada = await browser();
    expect((await asks(ada, 'table', 'list', { heading: 'H', rows }, {}, { method: 'POST' })).sent).toEqual(['table']);
  });

  test.each([
    ['another page', 'table', 'other', {}],
    ['a page without the asking region', 'nowhere', 'list', { heading: 'H', rows }],
    ['a page without regions', 'table', 'plain', {}],
  ])('is empty for %s, and its messages wait', async (_name, name, page, data) => {
    const ada = await browser();
    const { response, text } = await asks(ada, name, page, data);
    expect([response.headers.get('loom-answer'), text]).toEqual(['none', '']);
  });

  test('is the whole page when a form led to another page', async () => {
    const ada = await browser();
    const { response, text } = await asks(ada, 'table', 'other', {}, {}, { method: 'POST', status: 422 });
    expect([response.status, response.headers.get('loom-answer')]).toEqual([422, 'page']);
    expect(text).toContain('<!doctype html>');
  });

  test('to a region alone runs nothing of the others', async () => {
    const ada = await browser();
    let ran = 0;
    const secret = () => {
      ran++;
      return 'secret';
    };
    const { sent, text } = await asks(ada, 'row-2', 'list', { heading: 'H', rows, secret }, { 'loom-only': 'row-2' });
    expect([sent, ran]).toEqual([['row-2'], 0]);
    expect(text).toMatch(
      /^<template data-loom-merge-into="row-2"><tr data-loom-region="row-2" data-loom-mark="[\w-]+"><td>two<\/td><\/tr><\/template>/,
    );
    expect((await asks(ada, 'slow', 'list', { heading: 'H', rows, secret }, { 'loom-only': 'slow' })).text).toContain(
      'secret',
    );
    const gone = await asks(ada, 'row-9', 'list', { heading: 'H', rows, secret }, { 'loom-only': 'row-9' });
    expect([gone.response.headers.get('loom-answer'), ran]).toEqual(['none', 1]);
  });

  test('to several regions together holds each once, and runs nothing of the others', async () => {
    const ada = await browser();
    let ran = 0;
    const secret = () => ran++;
    const only = { 'loom-only': 'account, row-2, row-9, table' };
    const { sent, text } = await asks(ada, 'account', 'list', { heading: 'H', rows, secret }, only);
    // A row comes with its table; one that is not there says so by not being there.
    expect([sent, ran]).toEqual([['account', 'table'], 0]);
    expect(text.match(/data-loom-digests="([^"]*)"/)![1]!.replace(/=[\w-]+/g, '')).toBe('account, table, row-1, row-2');
  });

  test('lists after a refusal what was sent alone', async () => {
    const ada = await browser();
    const { text } = await asks(ada, 'table', 'list', { heading: 'New', rows }, {}, { method: 'POST', status: 422 });
    expect(
      text
        .match(/data-loom-digests="([^"]*)"/)![1]!
        .replace(/=[\w-]+/g, '')
        .split(', ')
        .sort(),
    ).toEqual(['flash', 'row-1', 'row-2', 'table']);
  });

  test('begins with the tags of the document where what is outside of regions differs', async () => {
    const layout =
      '<meta (takes dark)><!doctype html><!-- <html class="no"> --><html lang="de" class=${dark && \'a > b\'}><head><title>T</title></head><body data-n="1"><slot></slot></body></html>';
    const page = '<meta (layout dark-layout dark=${dark}) (takes dark)><p (region box)>x</p>';
    const own = { sources: { 'layouts/dark-layout.html': layout, 'pages/dark.html': page } };
    const ada = await browser({ dark: false }, 'dark', own);
    expect((await asks(ada, 'box', 'dark', { dark: true })).text).toMatch(
      /^<title>T<\/title>\n<html lang="de" class="a (?:>|&gt;) b"><body data-n="1">\n<template data-loom-merge-into="page">/,
    );
    expect((await asks(ada, 'box', 'dark', { dark: false })).text).not.toContain('<html');
  });

  test('is another page, whole, to whoever asks on behalf of the page', async () => {
    const ada = await browser();
    const { response, text } = await asks(ada, 'page', 'other', {});
    expect([response.headers.get('loom-answer'), text.includes('only-here')]).toEqual(['page', true]);
  });

  test('knows pages of any name, percent-encoded; what is no such name is another page', async () => {
    const own = { sources: { 'pages/日本.html': '<p (region box)>${context.url?.search}</p>' } };
    const ada = await browser({}, '日本', own);
    const kind = async (name: string) =>
      (await asks({ ...ada, page: name }, 'box', '日本', {})).response.headers.get('loom-answer');
    expect([await kind(encodeURIComponent('日本')), await kind('%E0%A4%A')]).toEqual(['parts', 'none']);
  });

  test('carries the messages that it shows, once', async () => {
    const ada = await browser();
    const redirected = (await ada.loom.exchange(new Request(address))).redirect('/', { flash: 'Saved' });
    const cookie = redirected.headers
      .getSetCookie()
      .map((line) => line.split(';')[0])
      .join('; ');
    const { sent, text, response } = await asks(ada, 'table', 'list', { heading: 'H', rows }, { cookie });
    expect(sent).toEqual(['flash']);
    expect(text).toContain('>Saved</p>');
    expect(response.headers.getSetCookie().join()).toContain('loom-flash=; ');
    const other = await asks(ada, 'table', 'other', {}, { cookie });
    expect(other.response.headers.getSetCookie().join()).not.toContain('loom-flash=;');
  });

  test('to another site is a URL for the browser', async () => {
    const ada = await browser();
    const exchange = await ada.loom.exchange(new Request(address, { headers: { 'loom-region': 'table' } }));
    const response = exchange.redirect('https://other.test/x', { external: true });
    expect([response.status, response.headers.get('loom-elsewhere'), response.headers.get('location')]).toEqual([
      204,
      'https://other.test/x',
      null,
    ]);
  });
});

describe('mistakes', () => {
  test.each([
    ['a name twice', '<p (region a)></p><p (region ${n})></p>', 'a', 'duplicate-region'],
    ['a reserved name', '<p (region ${n})></p>', 'page', 'invalid-region-name'],
    ['a malformed name', '<p (region ${n})></p>', 'a/b', 'invalid-region-name'],
  ])('%s is an error in development and a notice in production', async (_name, markup, n, code) => {
    const template = `<meta (takes n)>${markup}`;
    const logged: object[] = [];
    const logger = { warn: (details: object) => logged.push(details), error: () => {} };
    const development = await createLoom({ sources: { 'pages/a.html': template }, mode: 'development' });
    expect(() => development.renderSync('a', { n })).toThrow(expect.objectContaining({ code }));
    const production = await createLoom({ sources: { 'pages/a.html': template }, logger });
    expect(production.renderSync('a', { n })).toContain('data-loom-region=');
    expect(logged).toMatchObject([{ code }]);
  });

  test.each([
    ['an interval without unit', '<p (region a poll="2")></p>', 'invalid-poll'],
    ['an unknown setting', '<p (region a pols="2s")></p>', 'unknown-region-setting'],
    ['when far', '<p (region a from="/x" when="far")></p>', 'invalid-when'],
    ['no name', '<p (region)></p>', 'invalid-clause'],
    ['on a group', '<template (region a)>x</template>', 'refused-clause'],
  ])('%s', async (_name, template, code) => {
    expect((await errors(template)).map((error) => error.code)).toEqual([code]);
  });
});

describe('the title', () => {
  const titled = {
    'pages/t.html':
      '<meta (takes title, n)><html><head><title>${title} · Harbour</title></head><body><h1>x</h1><p (region n)>${n}</p><svg><title>${n}</title></svg></body></html>',
  };
  const open = (data: object) => browser(data, 't', { sources: titled });

  test('comes along with every answer, and does not make the page another', async () => {
    const from = await open({ title: 'One', n: 1 });
    const { sent, text } = await asks(from, 'page', 't', { title: 'Two', n: 1 });
    expect(sent).toEqual([]);
    expect(text).toContain('<title>Two · Harbour</title>');
  });

  test('of a drawing is part of the page', async () => {
    const from = await open({ title: 'One', n: 1 });
    expect((await asks(from, 'page', 't', { title: 'One', n: 2 })).sent).toEqual(['page']);
  });
});

test.each(['form', 'plain'])(
  'another page is told at once: nothing of %s runs, and its lists are closed',
  async (page) => {
    const from = await browser();
    const happened: string[] = [];
    const rows = {
      [Symbol.asyncIterator]: () => rows,
      next: () => Promise.resolve({ done: true, value: undefined }),
      return: () => {
        happened.push('closed');
        return Promise.resolve({ done: true, value: undefined });
      },
    };
    const data = {
      get n() {
        happened.push('ran');
        return 1;
      },
      rows,
    };
    const { response, text } = await asks(from, 'table', page, data);
    expect([response.headers.get('loom-answer'), text]).toEqual(['none', '']);
    expect(happened).toEqual(['closed']);
  },
);
