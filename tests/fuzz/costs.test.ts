/** What strangers send and what data holds costs a time that grows with its size, and no more. */

import { describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, put, trustedHTML } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { visitor } from '../support/exchanges.ts';
import { growth } from '../support/growth.ts';
import { quietLogger, secret } from '../support/settings.ts';

const form = defineForm(
  'all',
  z.object({
    amount: z.number().optional(),
    day: z.iso.date().optional(),
    kind: z.enum(['a', 'b']).optional(),
    name: z.string().optional(),
    tags: z.array(z.string()).optional(),
    rows: z.array(z.object({ name: z.string().optional(), done: z.boolean().optional() })).optional(),
  }),
  { limits: { body: 2 ** 24, fields: 2 ** 20, name: 2 ** 20 } },
);
const times = (text: string, count: number) => text.repeat(count);

const loomOf = (template: string): Promise<Loom> =>
  createLoom({
    sources: { 'pages/page.html': `<meta (takes a = null, b = [])>${template}` },
    secret,
    trustProxy: true,
    logger: quietLogger,
  });

describe('values of data', () => {
  test.each<[name: string, template: string, a: (size: number) => unknown]>([
    ['a long text, cut short', '${truncate(a, 80)}', (n) => times('a', n)],
    ['spaces, cut short', '${truncate(a, 80)}', (n) => times(' ', n)],
    ['one grapheme without end, cut short', '${truncate(a, 80)}', (n) => `x${times('\u0301', n)}`],
    ['a long text, cut long', '${truncate(a, 10000)}', (n) => times('ab ', n)],
    ['a list in words', '${list(a)}', (n) => Array.from({ length: n / 10 }, () => 'x')],
    ['spaces in candidates', '<img srcset=${a}>', (n) => times(' ', n)],
    ['commas in candidates', '<img srcset=${a}>', (n) => `a${times(',', n)}b${times(',', n)} ${times('(', n)}`],
    ['candidates', '<img srcset=${a}>', (n) => times('a 1x, ', n)],
    ['controls before an address', '<a href=${a}>x</a>', (n) => times('\u0001 ', n)],
    ['line breaks in an address', '<a href=${a}>x</a>', (n) => `${times('\n', n)}:`],
    ['dots in a path', '<a href="/b/${a}/${a}">x</a>', (n) => times('.', n)],
    ['a style', '<p style="--a: ${a}">x</p>', (n) => times('url ', n)],
    ['brackets in a style', '<p style="--a: ${a}">x</p>', (n) => times('(', n) + times(')', n)],
    ['special characters', '<p title=${a}>${a}</p>', (n) => times('&\ud800', n)],
    ['JSON', '<script type="application/json">${a}</script>', (n) => times('<\u2028', n)],
    ['tokens', '<p class=${a}>x</p>', (n) => Array.from({ length: n }, () => 'x')],
    ['a query', '<a href=${withQuery(a, { x: 1 })}>x</a>', (n) => `?${times('a=b&', n)}`],
    [
      'a query of many values',
      '<a href=${withQuery("/", { x: a })}>x</a>',
      (n) => Array.from({ length: n / 10 }, () => 1),
    ],
    ['names of attributes', '<p ${...a}>x</p>', (n) => ({ [times('a', n)]: 1 })],
    ['a day', '${date(a)}', (n) => times('1', n)],
    ['many values', '<p (for x of a)>${x}</p>', (n) => Array.from({ length: n }, () => ({}))],
  ])('%s', async (_name, template, a) => {
    const loom = await loomOf(template);
    const work = (size: number) => {
      const value = a(size);
      return loom.render('page', { a: value }).catch(() => {});
    };
    expect(await growth(work, 20_000)).toBeLessThan(11);
  });
});

describe('texts that are cut', () => {
  test.each<[name: string, template: string, a: (size: number) => string]>([
    ['a text of which most is kept', '${truncate(a, a.length / 2)}', (n) => times('ab ', n)],
    ['spaces of which most are kept', '${truncate(a, a.length - 1)}', (n) => times(' ', n)],
    ['flags of which most are kept', '${truncate(a, a.length / 5)}', (n) => times('🇩🇪', n)],
    ['graphemes of many marks', '${truncate(a, a.length / 400)}', (n) => times(`x${times('\u0301', 299)}`, n / 100)],
  ])('%s', async (_name, template, a) => {
    const loom = await loomOf(template);
    const work = (size: number) => loom.render('page', { a: a(size) });
    // A segmenter that is given all of it takes seconds for 16,000.
    expect(await growth(work, 4000)).toBeLessThan(11);
  });
});

describe('markup that is put or asked about', () => {
  /** A checker of expressions misses some: these are what an expression with two ways through a comment takes longest for. */
  const nested = [
    '<!--',
    '<!---->',
    '<!-- -->',
    '<!-->',
    ' <!--x-->\n',
    '<!doctype>',
    '<?xml?>',
    '<body ',
    '<html a="',
    '<!--\'"-->',
  ];

  test.each(nested)('%j, put by a change', async (piece) => {
    const loom = await loomOf('<p>x</p>');
    const work = async (size: number) => {
      const headers = { 'loom-region': 'page', 'sec-fetch-site': 'same-origin' };
      const exchange = await loom.exchange(new Request('http://harbour.test/', { method: 'POST', headers }));
      await exchange.verify();
      const change = put(trustedHTML(times(piece, size))).atEndOf('rows');
      const text = await (await exchange.changes([change], { fallback: '/' })).text();
      expect(text).toContain('data-loom-put');
      return text;
    };
    // What doubles with each piece is told from 26 of them; 80,000 would never end.
    expect(await growth(work, 6.5)).toBeLessThan(11);
    expect(await growth(work, 20_000)).toBeLessThan(11);
  });

  test.each(nested)('%j, at the start of a page', async (piece) => {
    const loom = await createLoom({
      sources: { 'pages/page.html': `<meta (takes a)>\${a}<html><body><p>x</p></body></html>` },
      logger: quietLogger,
    });
    const headers = { 'loom-region': 'page', 'loom-page': 'other', cookie: 'loom-client=1' };
    const work = async (size: number) =>
      (
        await loom.respond(new Request('http://harbour.test/', { headers, method: 'POST' }), 'page', {
          a: trustedHTML(times(piece, size)),
        })
      ).text();
    // What doubles with each piece is told from 26 of them; 80,000 would never end.
    expect(await growth(work, 6.5)).toBeLessThan(11);
    expect(await growth(work, 20_000)).toBeLessThan(11);
  });

  test.each([...nested, '<?xml', '<!doctype a', ' '])('%j, at the start of a drawing', async (piece) => {
    const drawing = defineForm('drawing', z.object({ file: z.file() }));
    const ada = await visitor({
      'pages/page.html': '<meta (takes f)><form (bind f) method="post"><input name="file"></form>',
    });
    await ada.page((exchange) => exchange.respond('page', { f: drawing.blank() }));
    const cookie = [...ada.cookies].map((pair) => pair.join('=')).join('; ');
    const work = async (size: number) => {
      const body = new FormData();
      for (const [name, value] of Object.entries(ada.hidden)) body.append(name, value);
      body.append('file', new File([times(piece, size)], 'a.svg', { type: 'image/svg+xml' }));
      const headers = { cookie, 'sec-fetch-site': 'same-origin' };
      await using exchange = await ada.loom.exchange(
        new Request('http://harbour.test/', { method: 'POST', body, headers }),
      );
      const sent = await exchange.read(drawing);
      expect(sent.value?.file.type).toBe('application/octet-stream');
    };
    expect(await growth(work, 6.5)).toBeLessThan(11);
  });
});

describe('what is sent', () => {
  const post = (body: string, type = 'application/x-www-form-urlencoded') =>
    new Request('http://harbour.test/', { method: 'POST', body, headers: { 'content-type': type } });

  test.each<[name: string, body: (size: number) => string]>([
    ['digits and a letter for a number', (n) => `amount=${times('1', n)}x`],
    ['digits for a number', (n) => `amount=${times('1', n)}.${times('1', n)}e${times('1', n)}`],
    ['digits for a day', (n) => `day=${times('1', n)}-`],
    ['ampersands', (n) => times('&', n)],
    ['names without values', (n) => times('a&', n)],
    ['long names without values', (n) => times(`${times('a', 50)}&`, n)],
    ['percent signs', (n) => `name=${times('%', n)}`],
    ['bytes that are not UTF-8', (n) => `name=${times('%ff', n)}`],
    ['brackets in a name', (n) => `${times('[', n)}=1&${times('[1]', n)}=1&tags${times('[', n)}=1`],
    ['digits in a name', (n) => `tags[${times('1', n)}=1`],
    ['many items', (n) => times('tags[]=1&', n / 10)],
    ['many unknown values', (n) => times('other=1&', n / 10)],
    ['rows', (n) => Array.from({ length: n / 20 }, (_, at) => `rows[${at}].name=x`).join('&')],
    ['rows that moved', (n) => `rows[]=${times('1,', n)}1&rows[0].name=x`],
    ['rows that nearly moved', (n) => `rows[]=${times('1,', n)}x`],
    ['boxes for all rows', (n) => `rows[0].done=false&${times('loom-all=rows[].done&', n / 20)}`],
    ['a change of rows', (n) => `loom-edit=add+${times('rows[0].', n)}`],
    ['changes of rows', (n) => times('loom-edit=add+rows&', n / 20)],
    ['line ends', (n) => `name=${times('%0D%0A', n)}`],
  ])('%s', async (_name, body) => {
    const work = (size: number) => form.read(post(body(size)), { token: false });
    expect(await growth(work, 20_000)).toBeLessThan(11);
  });

  test.each<[name: string, text: string]>([
    ['valid', 'Ada'],
    ['refused', 'A'],
  ])('%s rows, read and shown again', async (_name, text) => {
    const crewForm = defineForm('crew', z.object({ crew: z.array(z.object({ name: z.string().min(2) })) }), {
      limits: { body: 2 ** 24, fields: 2 ** 20, list: 2 ** 20 },
    });
    const loom = await createLoom({
      sources: {
        'pages/page.html':
          '<meta (takes f)><form (bind f)><ul (errors)></ul><p (for _, i of f.items(\'crew\'))><input name="crew[${i}].name"><b (errors crew[${i}].name)></b></p></form>',
      },
      logger: quietLogger,
    });
    const work = async (size: number) => {
      const body = Array.from({ length: size }, (_, at) => `crew[${at}].name=${text}`).join('&');
      const f = await crewForm.read(post(body), { token: false });
      return loom.render('page', { f });
    };
    expect(await growth(work, 800)).toBeLessThan(11);
  });

  test.each<[name: string, body: (size: number) => string]>([
    ['brackets', (n) => times('[', n)],
    ['a wide object', (n) => `{${Array.from({ length: n / 10 }, (_, index) => `"a${index}":1`).join(',')}}`],
    ['a list', (n) => `{"tags":[${times('1,', n)}1]}`],
  ])('JSON: %s', async (_name, body) => {
    const work = (size: number) => form.read(post(body(size), 'application/json'), { token: false });
    expect(await growth(work, 20_000)).toBeLessThan(11);
  });

  test.each<[name: string, headers: (size: number) => Record<string, string>]>([
    ['a region that might be made of several values', (n) => ({ 'loom-only': `row-${times('-', n)}` })],
    ['the same with a wrong end', (n) => ({ 'loom-only': `row-${times('1-', n)}!` })],
    ['digests', (n) => ({ 'loom-region': 'page', 'loom-digests': times('a=,', n) })],
    ['cookies', (n) => ({ cookie: times('loom;', n) })],
    ['a forged session', (n) => ({ cookie: `loom=${times('a', n)}; loom-flash=${times('a.', n)}` })],
    ['Forwarded', (n) => ({ forwarded: `${times('a="\\"', n)}${times(',', n)}` })],
    ['X-Forwarded-Host', (n) => ({ 'x-forwarded-host': times(' ,', n) })],
  ])('a header: %s', async (_name, headers) => {
    const loom = await loomOf(
      '<div (region all)><p (for x of b) (region row-${x}-${x}-${x}-edit)><i (region cell-${x}-${x}-${x}-${x}-end)>x</i></p></div>',
    );
    const work = (size: number) =>
      loom.respond(new Request('http://harbour.test/', { headers: headers(size) }), 'page', { b: [1, 2, 3] });
    expect(await growth(work, 20_000)).toBeLessThan(11);
  });
});
