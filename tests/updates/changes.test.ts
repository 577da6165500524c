/** Changes by name on the wire: what each looks like, how an answer of them comes and ends, and who is given what instead. */
import { describe, expect, test } from '@jest/globals';
import {
  type ChangesSource,
  createLoom,
  type Exchange,
  type LoomOptions,
  put,
  reload,
  remove,
  trustedHTML,
} from 'zip-loom';
import { secret } from '../support/settings.ts';

const sources = {
  'partials/arrival-row.html': '<meta (takes boat)><tr><td>${boat}</td></tr>',
  'partials/late-row.html': '<meta (takes boat)><tr (await name = boat)><td>${name}</td></tr>',
  'partials/dot-mark.html': '<circle r="1"/>',
  'partials/fraction-mark.html': '<mfrac><mi>a</mi><mi>b</mi></mfrac>',
  'partials/form-part.html': '<form method="post"><input name="x"></form>',
  'partials/styled-part.html': '<link (into head) rel="stylesheet" href="/part.css"><p (region part)>styled</p>',
  'partials/failing-part.html': '<meta (takes boat)><p>${boat.name.first}</p>',
  'pages/board.html':
    '<meta (takes n)><!doctype html><html><head><title>B</title></head><body><h1>${n}</h1><section (region rows)>${n}</section></body></html>',
  'pages/other.html': '<h1>Other & more</h1>',
};

const address = 'http://harbour.test/board';
const ofClient = { 'loom-region': 'rows', 'loom-page': 'board', 'loom-digests': 'page=AAAAAAAA, rows=AAAAAAAA' };

interface Told {
  logged: Array<{ err?: Error; code?: string }>;
  exchange: Exchange;
}

async function exchangeFor(
  init: RequestInit & { headers?: Record<string, string> },
  options: LoomOptions = {},
): Promise<Told> {
  const logged: Told['logged'] = [];
  const note = (details: object) => void logged.push(details);
  const loom = await createLoom({
    sources,
    secret,
    logger: { warn: note, error: note },
    mode: 'production',
    ...options,
  });
  return { logged, exchange: await loom.exchange(new Request(address, init)) };
}

/** The answer to a form of the client’s, without what differs from answer to answer. */
async function answer(source: ChangesSource | ((exchange: Exchange) => ChangesSource), options: LoomOptions = {}) {
  const told = await exchangeFor({ method: 'POST', headers: ofClient }, options);
  await told.exchange.verify();
  const response = await told.exchange.changes(source as ChangesSource, { fallback: '/board' });
  const text = (await response.text()).replace(/ data-loom-mark="[\w-]{8}"/g, '');
  return { response, lines: text.split('\n').filter((line) => !/data-loom-token/.test(line) && line), ...told };
}

const done = '<template data-loom-end="done"></template>';

describe('on the wire', () => {
  test.each([
    [put('arrival-row', { boat: 'A & B' }).atStartOf('rows'), 'put="at-start-of rows"', '<tr><td>A &amp; B</td></tr>'],
    [
      put('late-row', { boat: Promise.resolve('late') }).atEndOf('rows'),
      'put="at-end-of rows"',
      '<tr><td>late</td></tr>',
    ],
    [put(trustedHTML('<b>x</b>')).before('a'), 'put="before a"', '<b>x</b>'],
    [put(trustedHTML(' text')).after('a"<b'), 'put="after a&quot;&lt;b"', ' text'],
    [put(trustedHTML('')).inPlaceOf('a'), 'put="in-place-of a"', ''],
    [put('dot-mark').inside('a'), 'put="inside a" data-loom-wrapped', '<svg><circle r="1"/></svg>'],
    [
      put('fraction-mark').inside('a'),
      'put="inside a" data-loom-wrapped',
      '<math><mfrac><mi>a</mi><mi>b</mi></mfrac></math>',
    ],
    [remove('row-7'), 'remove="row-7"', ''],
    [reload('board'), 'reload="board"', ''],
  ])('%#', async (change, attribute, content) => {
    const { lines } = await answer([change]);
    expect(lines).toEqual([`<template data-loom-${attribute}>${content}</template>`, done]);
  });

  test('its headers', async () => {
    const { response } = await answer([]);
    expect(response.status).toBe(200);
    expect(Object.fromEntries(response.headers)).toMatchObject({
      'loom-answer': 'changes',
      'cache-control': 'no-store, no-transform',
      'x-accel-buffering': 'no',
      vary: 'Loom-Region, Loom-Page, Loom-Digests, Loom-Only',
    });
  });

  test('what a template places into the head comes once, its regions are marked, its forms have their token', async () => {
    const told = await exchangeFor({ method: 'POST', headers: ofClient });
    await told.exchange.verify();
    const part = () => put('styled-part').inside('a');
    const response = await told.exchange.changes([part(), part(), put('form-part').inside('b')], { fallback: '/' });
    const text = await response.text();
    expect(text.match(/<template data-loom-head>/g)).toHaveLength(1);
    const [, mark] = /data-loom-mark="([\w-]{8})"/.exec(text) ?? [];
    expect(text.split(`data-loom-region="part" data-loom-mark="${mark}"`)).toHaveLength(3);
    expect(text).toMatch(/name="loom-token" value="[^"]+"/);
    expect(response.headers.get('set-cookie')).toContain('loom=');
  });

  test('a page at the end comes in parts, whatever the browser has; another comes whole', async () => {
    const { lines } = await answer([
      remove('a'),
      (await exchangeFor({})).exchange.page('board', { n: 3 }),
      remove('never'),
    ]);
    expect(lines.slice(0, 4)).toEqual([
      '<template data-loom-remove="a"></template>',
      '<title>B</title>',
      '<html><body>',
      '<template data-loom-merge-into="page"><h1>3</h1><section data-loom-region="rows">3</section></template>',
    ]);
    expect(lines.at(-2)).toMatch(/^<template data-loom-page="board" data-loom-digests="page=[\w-]{8}, rows=[\w-]{8}">/);
    expect(lines.at(-1)).toBe(done);
    const other = await answer([(await exchangeFor({})).exchange.page('other')]);
    expect(other.lines[0]).toContain('<template data-loom-whole-page>');
    expect(other.lines[0]).toContain('&lt;h1&gt;Other &amp; more&lt;/h1&gt;');
  });
});

describe('as they come', () => {
  test('they are asked for at the pace of whoever reads, and who leaves ends the work', async () => {
    const { exchange } = await exchangeFor({ method: 'POST', headers: ofClient });
    await exchange.verify();
    let made = 0;
    let isAborted = false;
    let hasEnded = false;
    const response = await exchange.changes(
      async function* (signal) {
        signal.addEventListener('abort', () => {
          isAborted = true;
        });
        try {
          for (;;) {
            made++;
            yield put(trustedHTML('x'.repeat(1000))).atEndOf('log');
          }
        } finally {
          hasEnded = true;
        }
      },
      { fallback: '/' },
    );
    const reader = response.body!.getReader();
    for (let read = 0; read < 5; read++) await reader.read();
    await new Promise((wait) => setTimeout(wait, 50));
    expect(made).toBeLessThan(10);
    await reader.cancel();
    await new Promise((wait) => setTimeout(wait, 10));
    expect([isAborted, hasEnded]).toEqual([true, true]);
  });

  test('an error at once is an ordinary one; in the middle it is logged, told to developers, and ends the work', async () => {
    const failing = async function* (first: boolean) {
      if (first) yield remove('a');
      throw new Error('the net is torn');
    };
    const early = await answer(failing(false));
    expect([early.response.status, early.response.headers.get('loom-answer')]).toEqual([500, 'failure']);
    const late = await answer(failing(true));
    expect(late.lines).toEqual([
      '<template data-loom-remove="a"></template>',
      '<template data-loom-end="failed"></template>',
    ]);
    expect(late.logged.map(({ err }) => err?.message)).toEqual(['the net is torn']);
    const development = await answer(failing(true), { mode: 'development' });
    expect(development.lines.at(-1)).toContain('the net is torn');
    const template = await answer([remove('a'), put('failing-part', { boat: {} }).inside('b')]);
    expect(template.lines.at(-1)).toBe('<template data-loom-end="failed"></template>');
    expect(template.logged.map(({ err }) => String(err))).toEqual([expect.stringContaining('failing-part.html')]);
  });
});

describe('who is given something else', () => {
  const work = (steps: string[]) =>
    async function* (this: void) {
      for (const step of ['one', 'two']) {
        steps.push(step);
        yield put(trustedHTML(step)).inside('a');
      }
    };

  test('a form without the client: the work is done, then comes the page or the URL', async () => {
    const { exchange } = await exchangeFor({ method: 'POST' });
    await exchange.verify();
    const steps: string[] = [];
    const sent = await exchange.changes(work(steps), { fallback: '/board?done' });
    expect([steps, sent.status, sent.headers.get('location')]).toEqual([['one', 'two'], 303, '/board?done']);
    const shown = await exchange.changes([remove('a'), exchange.page('board', { n: 4 })], { fallback: '/' });
    expect([shown.status, await shown.text()]).toEqual([200, expect.stringContaining('<h1>4</h1>')]);
    const failed = await exchange.changes(
      () => {
        throw new Error('no');
      },
      { fallback: '/' },
    );
    expect(failed.status).toBe(500);
  });

  test.each([
    ['without the client', {}],
    ['who goes back', { ...ofClient, 'loom-region': 'page' }],
    ['in the background', { ...ofClient, 'loom-only': 'rows' }],
  ])('who only looks, %s', async (_name, headers) => {
    const { exchange } = await exchangeFor({ headers });
    const steps: string[] = [];
    const response = await exchange.changes(work(steps), { fallback: exchange.page('board', { n: 5 }) });
    expect([steps, response.status, await response.text()]).toEqual([[], 200, expect.stringContaining('5')]);
  });

  test('who looks with the client in a region is given the changes', async () => {
    const { exchange } = await exchangeFor({ headers: ofClient });
    const response = await exchange.changes([remove('a')], { fallback: '/' });
    expect(await response.text()).toContain('data-loom-remove');
  });
});

describe('mistakes', () => {
  test.each([
    ['a target with whitespace', () => put('dot-mark').inside('two words'), 'invalid-target'],
    ['an empty target', () => remove(''), 'invalid-target'],
    ['no content', () => put(undefined as never), 'invalid-content'],
    ['markup that nobody vouches for', () => put({ html: '<b>' } as never), 'invalid-content'],
  ])('%s', (_name, make, code) => {
    expect(make).toThrow(expect.objectContaining({ code }));
  });

  test.each([
    ['put alone', [put('dot-mark')], 'Say where it goes'],
    ['a text', ['<b>x</b>'], 'not “<b>x</b>”'],
    ['no list', put('dot-mark').inside('a'), 'one change without a list'],
    ['a promise', (async () => [remove('a')])(), 'not a promise'],
    ['nothing', undefined, 'not undefined'],
  ])('%s', async (_name, source, words) => {
    const { response, logged } = await answer(source as never);
    expect([response.status, String(logged.at(-1)?.err)]).toEqual([500, expect.stringContaining(words)]);
  });

  test('nowhere to go otherwise', async () => {
    const { exchange } = await exchangeFor({ headers: ofClient });
    await expect(exchange.changes([], {} as never)).rejects.toMatchObject({ code: 'invalid-call' });
    await expect(exchange.changes([], { fallback: '/', status: 3 } as never)).rejects.toMatchObject({
      code: 'unknown-option',
    });
  });
});
