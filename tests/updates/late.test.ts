/** Late content in answers to requests: who gets it, what regions and forms make of it. */

import { describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, type LoomOptions } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { visitor } from '../support/exchanges.ts';
import { quietLogger, secret } from '../support/settings.ts';

const layout = '<!doctype html>\n<html>\n<head>\n<title>T</title></head>\n<body>\n<slot></slot>\n</body>\n</html>\n';
const sources = {
  'layouts/site-layout.html': layout,
  'pages/home.html': `<meta (takes weather, clock = "1")>
<p (region clock)>\${clock}</p>
<section (region weather)><b (await w = weather())>\${w}</b><i (meanwhile)>Asking</i></section>`,
  'pages/plain.html': '<meta (takes weather)>\n<b (await w = weather())>${w}</b><i (meanwhile)>Asking</i>',
  'pages/in-order.html': '<meta (takes weather)>\n<b (await w = weather())>${w}</b>',
  'pages/rows.html':
    '<meta (takes rows)>\n<ul (region list)><li (for row of rows)>${row}</li></ul><p (region rest)>x</p>',
  'pages/inside.html':
    '<meta (takes part, weather)>\n<section (await p = part)><p (region inner)>${p}</p></section><i (await w = weather())>${w}</i>',
};
const address = 'http://harbour.test/berths?page=2';
const later = <T>(value: T, after = 5): Promise<T> => new Promise((resolve) => setTimeout(() => resolve(value), after));

function loomOf(options: LoomOptions = {}): Promise<Loom> {
  return createLoom({
    sources,
    layouts: { '**': 'site-layout' },
    secret,
    logger: quietLogger,
    ...options,
  });
}

const withClient = { cookie: 'loom-client=1' };
const get = (headers: Record<string, string> = {}, url = address) => new Request(url, { headers });
const plain = (text: string) => text.replace(/[\w-]{8}(?=-\d)/g, 'id').replace(/ data-loom-mark="[\w-]{8}"/g, '');

describe('where late content goes', () => {
  const data = { weather: () => later('12°') };
  const late =
    '<body>\n<!--late id-1--><i>Asking</i><!--/late id-1-->\n<template data-loom-late="id-1"><b>12°</b></template>\n</body>';
  const inPlace = '<body>\n<b>12°</b>\n</body>';
  test.each<[string, Record<string, string>, string, 'late' | 'source' | undefined, string]>([
    ['a first visit', {}, address, undefined, inPlace],
    ['a visitor whose client has said that it runs', withClient, address, undefined, late],
    ['a browser that runs no scripts now', withClient, `${address}&loom-order=source`, undefined, inPlace],
    ['a page that says late', {}, address, 'late', late],
    ['a page that says source', withClient, address, 'source', inPlace],
    ['a client that merges', { ...withClient, 'loom-region': 'page' }, address, 'late', ''],
  ])('%s', async (_, headers, url, order, expected) => {
    const loom = await loomOf();
    const response = await loom.respond(get(headers, url), 'plain', data, order ? { order } : {});
    expect(plain(await response.text())).toContain(expected);
    expect(response.status).toBe(200);
  });

  test('browsers without scripts are sent on to the page in source order, which takes the cookie away', async () => {
    const loom = await loomOf();
    const text = await (await loom.respond(get(withClient), 'plain', data)).text();
    expect(text).toContain(
      '<head><noscript><meta http-equiv="refresh" content="0; url=?page=2&amp;loom-order=source"></noscript>',
    );
    const response = await loom.respond(get(withClient, `${address}&loom-order=source`), 'plain', data);
    expect(await response.text()).not.toContain('noscript');
    expect(response.headers.getSetCookie()).toEqual(['loom-client=; Path=/; Max-Age=0; SameSite=Lax']);
  });

  test('a path that looks like another site leads nowhere', async () => {
    const loom = await loomOf();
    const text = await (await loom.respond(get(withClient, 'http://harbour.test//evil.test/x'), 'plain', data)).text();
    expect(text).toContain('content="0; url=?loom-order=source"');
  });

  test('the page’s own URL does not show that it came in source order', async () => {
    const loom = await loomOf({ sources: { ...sources, 'pages/here.html': '<p>${context.url.search}</p>' } });
    expect(await (await loom.respond(get({}, `${address}&loom-order=source`), 'here')).text()).toContain(
      '<p>?page=2</p>',
    );
  });

  test('what fails at once is an ordinary 500, what fails later is shown in its place', async () => {
    const loom = await loomOf();
    const atOnce = await loom.respond(get(), 'in-order', { weather: () => Promise.reject(new Error('fog')) });
    expect(atOnce.status).toBe(500);
    const slowly = await loom.respond(get(), 'in-order', { weather: () => later(0).then(() => Promise.reject('fog')) });
    expect(slowly.status).toBe(200);
    expect(await slowly.text()).toMatch(/<body>\n<div class="failed-part" role="alert">[\s\S]*<\/div>\n<\/body>/);
  });

  test('HEAD waits for nothing and lets the data go', async () => {
    const loom = await loomOf();
    const response = await loom.respond(new Request(address, { method: 'HEAD' }), 'plain', {
      weather: () => new Promise(() => {}),
    });
    expect([response.status, response.body]).toEqual([200, null]);
  });
});

describe('regions', () => {
  const has = async (response: Response) => /data-loom-digests="([^"]*)"/.exec(await response.text())?.[1];

  test('digests are the same in whichever order and however quickly the content came', async () => {
    const loom = await loomOf();
    const listOf = async (weather: () => unknown, order: 'late' | 'source') =>
      has(await loom.respond(get(withClient), 'home', { weather }, { order }));
    const first = await listOf(() => later('12°'), 'late');
    expect(first).toMatch(/^page=[\w-]{8}, clock=[\w-]{8}, weather=[\w-]{8}$/);
    expect(await listOf(() => later('12°'), 'source')).toBe(first);
    expect(await listOf(() => '12°', 'late')).toBe(first);
    expect(await listOf(() => later('13°'), 'late')).not.toBe(first);
  });

  const ask = (list: string | undefined, more: Record<string, string> = {}) =>
    get({
      ...withClient,
      'loom-region': 'clock',
      'loom-page': 'home site-layout',
      'loom-digests': list ?? '',
      ...more,
    });

  test('an answer in place waits for late content, and leaves it out when it is as it was', async () => {
    const loom = await loomOf();
    const list = await has(await loom.respond(get(withClient), 'home', { weather: () => later('12°') }));
    const same = await (await loom.respond(ask(list), 'home', { clock: '2', weather: () => later('12°') })).text();
    expect([...same.matchAll(/data-loom-merge-into="(\w+)"/g)].map(([, name]) => name)).toEqual(['clock']);
    const other = await (await loom.respond(ask(list), 'home', { clock: '2', weather: () => later('13°') })).text();
    expect(plain(other)).toContain(
      '<template data-loom-merge-into="weather"><section data-loom-region="weather"><b>13°</b></section></template>',
    );
  });

  test('a region alone asks for nothing that only others wait for', async () => {
    const loom = await loomOf();
    let asked = 0;
    const weather = () => later(String(++asked));
    const clock = await loom.respond(ask('', { 'loom-only': 'clock' }), 'home', { weather });
    expect([plain(await clock.text()).includes('<p data-loom-region="clock">1</p>'), asked]).toEqual([true, 0]);
    const own = await loom.respond(ask('', { 'loom-only': 'weather' }), 'home', { weather });
    expect([plain(await own.text()).includes('<b>1</b></section>'), asked]).toEqual([true, 1]);
  });

  test('a region that is in content that waits is found there, and nothing else is waited for', async () => {
    const loom = await loomOf();
    const never = new Promise(() => {});
    const response = await loom.respond(ask('', { 'loom-only': 'inner' }), 'inside', {
      part: later('here'),
      weather: () => never,
    });
    expect(plain(await response.text())).toContain(
      '<template data-loom-merge-into="inner"><p data-loom-region="inner">here</p></template>',
    );
  });

  test('a region whose rows come one by one has no digest and is always sent', async () => {
    const loom = await loomOf();
    async function* rows() {
      yield 'a';
    }
    const list = await has(await loom.respond(get(withClient), 'rows', { rows: rows() }));
    expect(list).toMatch(/^page=[\w-]{8}, rest=[\w-]{8}$/);
    const headers = { 'loom-region': 'rest', 'loom-page': 'rows site-layout', 'loom-digests': list ?? '' };
    const text = await (await loom.respond(get({ ...withClient, ...headers }), 'rows', { rows: rows() })).text();
    expect([...text.matchAll(/data-loom-merge-into="(\w+)"/g)].map(([, name]) => name)).toEqual(['list']);
    expect(text).toContain('<li>a</li>');
  });
});

describe('forms', () => {
  const form = defineForm('stay', z.object({ boat: z.string(), berth: z.string() }));
  const page =
    '<meta (takes form, berths)>\n<form method="post" (bind form)><input name="boat"><p (await all = berths)><input name="berth" placeholder=${all[0]}></p><p (meanwhile)>…</p></form>';

  test.each(['late', 'source'] as const)('what came later belongs to the form: %s', async (order) => {
    const { request, loom, keep, cookies } = await visitor({ 'pages/stay.html': page });
    const asked = await loom.exchange(get());
    const response = await asked.respond('stay', { form: form.blank(), berths: later(['A1']) }, { order });
    // The session’s cookie went out before the part that needs it came.
    expect(response.headers.getSetCookie().join()).toContain('loom=');
    keep(response);
    const text = await response.text();
    const fields = [...text.matchAll(/<input type="hidden" name="(loom-\w+)" value="([^"]*)">/g)];
    expect(fields.map(([, name]) => name).sort()).toEqual(['loom-form', 'loom-form', 'loom-token']);
    expect(cookies.size).toBe(1);
    const body = new URLSearchParams([
      ['boat', 'Tern'],
      ['berth', 'A1'],
      ...fields.map(([, name, value]): [string, string] => [name!, value!]),
    ]);
    const sent = await (await loom.exchange(request(body, { bare: true }))).read(form);
    expect(sent).toMatchObject({ ok: true, value: { boat: 'Tern', berth: 'A1' } });
  });

  test('a button that leads to another site cannot come when the token is written already', async () => {
    const { loom, logged } = await visitor({
      'pages/stay.html': page.replace(
        '<input name="berth" placeholder=${all[0]}>',
        '<button formaction="https://elsewhere.example/">!</button>',
      ),
    });
    const shown = async (order: 'late' | 'source') => {
      const response = await loom.respond(get(), 'stay', { form: form.blank(), berths: later([]) }, { order });
      return response.text();
    };
    expect(await shown('late')).not.toContain('elsewhere');
    expect(logged).toEqual(['error']);
    // In its place it comes before the token, which is left out then.
    const inPlace = await shown('source');
    expect([inPlace.includes('elsewhere'), inPlace.includes('loom-token')]).toEqual([true, false]);
  });
});
