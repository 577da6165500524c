/** Data that a page does not take, and values that are not there. */
import { describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { secret } from '../support/settings.ts';
import { errors, failure, notices } from '../support/templates.ts';

async function logged(source: string, data: object) {
  const lines: Array<{ code: string; place?: string }> = [];
  const logger = { warn: (details: object) => lines.push(details as { code: string }), error: () => {} };
  const loom = await createLoom({ sources: { 'pages/page.html': source }, secret, logger });
  const html = await loom.render('page', data);
  await loom.render('page', data);
  return { html, lines };
}

describe('a name that a page does not take', () => {
  const page = '<meta (takes name, query = "", size?)>${name}${query}';

  test('is an error in development, at what the page takes', async () => {
    const misspelt = await failure(page, { name: 'a', qurey: 'b' });
    expect([misspelt.code, misspelt.line, misspelt.hint]).toEqual(['unknown-argument', 1, 'Did you mean “query”?']);
    expect(misspelt.message).toContain('page was given “qurey”, which it does not take.');
    expect((await failure(page, { name: 'a', colour: 'b' })).message).toContain('(takes name, query, size, colour)');
    expect((await failure('x', { title: 'b' })).message).toContain('Add it to the template: (takes title)');
    expect((await failure('x', { 'data-x': 'b' })).message).toContain('Leave it out of the data.');
  });

  test('is logged once in production, and the page is there', async () => {
    const { html, lines } = await logged(page, { name: 'a', qurey: 'b' });
    expect([html, lines.map(({ code }) => code)]).toEqual(['a', ['unknown-argument']]);
  });

  test('may be anything with a rest, and in objects of classes', async () => {
    class Model {
      name = 'a';
      id = 5;
    }
    expect((await logged(page, new Model())).lines).toEqual([]);
    expect((await logged('<meta (takes name, ...rest)>${name}${rest.id}', { name: 'a', id: 5 })).lines).toEqual([]);
    expect((await logged(page, JSON.parse('{ "name": "a", "query": "b", "size": 1 }'))).lines).toEqual([]);
  });
});

describe('undefined as a part', () => {
  test.each([
    ['<a href="/berths/${a.id}">x</a>', 'A part of the URL “/berths/” is undefined.', '<a href="/berths/">x</a>'],
    ['<a href="/b/${a.id}/c/${a.id}">x</a>', 'A part of the URL “/b/”', '<a href="/b//c/">x</a>'],
    ['<a href="${a.base}/x">x</a>', 'A part of the URL “/x”', '<a href="/x">x</a>'],
    ['<a href="/x?q=${a.q}">x</a>', 'A part of the URL “/x?q=”', '<a href="/x?q=">x</a>'],
    ['<img srcset="/x/${a.id} 2x">', 'A part of the URL “/x/”', '<img srcset="/x/ 2x">'],
    [
      '<form action="/x/${a.id}" method="post"></form>',
      'A part of the URL “/x/”',
      '<form action="/x/" method="post"></form>',
    ],
    ['<p title="Berth ${a.name}">x</p>', 'A part of an attribute is undefined.', '<p title="Berth ">x</p>'],
    ['<p data-x="${a.name}-${a.name}">x</p>', 'A part of an attribute is undefined.', '<p data-x="-">x</p>'],
  ])('%s', async (markup, message, html) => {
    const source = `<meta (takes a)>${markup}`;
    expect((await failure(source, { a: {} })).message).toContain(message);
    const found = await logged(source, { a: {} });
    expect(found.html).toBe(html);
    expect(found.lines[0]).toMatchObject({
      code: 'missing-part',
      place: expect.stringMatching(/^pages\/page\.html:1:/),
    });
  });

  test('null, an empty text and a class are meant', async () => {
    const source = '<meta (takes a)><a href="/b/${a.id ?? null}" title="x ${null}" class="y ${a.z}">x</a>';
    expect((await logged(source, { a: {} })).lines).toEqual([]);
  });
});

test('in development a field that leaves an attribute out is noted; a parameter or a chain that may end is not', async () => {
  const codes = (markup: string) => notices(`<meta (takes a, b?)>${markup}`, { a: {} }, { mode: 'development' });
  expect(await codes('<p title=${a.nmae}>x</p>')).toEqual(['missing-value']);
  expect(await codes('<a href=${a.url}>x</a>')).toEqual(['missing-value']);
  expect(await codes('<p title=${b} lang=${a?.lang} id=${a.id ?? null}>x</p>')).toEqual([]);
});

describe('an argument written as text where its default is none', () => {
  const card = {
    'partials/berth-card.html': '<meta (takes compact = false, wide = true, rows = 3, name = "x", any = null)>${name}',
  };
  test.each([
    ['<berth-card compact="false"></berth-card>', 'would be text. Write compact for true, or compact=${false}.'],
    ['<berth-card compact=true></berth-card>', '“compact” would be text.'],
    ['<berth-card wide=""></berth-card>', '“wide” would be text.'],
    ['<berth-card rows="5"></berth-card>', '“rows” would be text. Write rows=${5}.'],
    ['<berth-card rows="many"></berth-card>', 'Write rows=${3}.'],
  ])('%s', async (markup, message) => {
    const [error] = await errors(markup, card);
    expect([error?.code, error?.message]).toEqual(['invalid-argument', expect.stringContaining(message)]);
  });

  test.each(['compact', 'compact=${false}', 'wide=${null}', 'name="false"', 'any="5"', 'rows=${5}'])(
    '%s is right',
    async (argument) => {
      expect(await errors(`<berth-card ${argument}></berth-card>`, card)).toEqual([]);
    },
  );
});
