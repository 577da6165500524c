/** Forms with file fields, with and without a definition: how they are sent, and what is told of them. */
import { describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { visitor } from '../support/exchanges.ts';

const encoding = ' enctype="multipart/form-data"';
const file = '<input type="file" name="photo">';

async function pageOf(page: string, partials: Record<string, string> = {}): Promise<string> {
  const one = await visitor({ 'pages/a.html': page, ...partials });
  return one.page((exchange) => exchange.respond('a'));
}

/** Where the token is in a page: before the first file field, after it, or nowhere. */
function tokenPlace(page: string): string {
  const [token, field] = [page.indexOf('loom-token'), page.indexOf('type="file"')];
  return token === -1 ? 'none' : token < field || field === -1 ? 'before' : 'after';
}

describe('how a form is sent', () => {
  test.each<[string, page: string, partials: Record<string, string>, encodings: number, token: string]>([
    ['a file field inside', `<form method="post">${file}</form>`, {}, 1, 'before'],
    ['a file field deep inside', `<form method="post"><div><p (if true)>${file}</p></div></form>`, {}, 1, 'before'],
    ['an encoding of its own', `<form method="post"${encoding}>${file}</form>`, {}, 1, 'before'],
    ['no file field', '<form method="post"><input type="file-like" name="x"></form>', {}, 0, 'before'],
    ['another method', `<form method="patch" action="/x">${file}</form>`, {}, 1, 'before'],
    ['a query', `<form method="get">${file}</form>`, {}, 0, 'none'],
    [
      'a file field in a template that it calls',
      '<form method="post"><photo-field></photo-field></form><form method="post"><input name="x"></form>',
      { 'partials/photo-field.html': file },
      1,
      'before',
    ],
    [
      'a file field as content of a template',
      `<post-form>${file}</post-form>`,
      { 'partials/post-form.html': '<form method="post"><slot></slot></form>' },
      1,
      'before',
    ],
    [
      'a file field outside that names it',
      `<form id="f" method="post"></form>${file.replace('>', ' form="f">')}`,
      {},
      1,
      'before',
    ],
    [
      'a file field that is not shown',
      `<form method="post"><photo-field (if false)></photo-field></form>`,
      { 'partials/photo-field.html': file },
      0,
      'before',
    ],
  ])('%s', async (_name, page, partials, encodings, token) => {
    const shown = await pageOf(page, partials);
    expect([shown.split(encoding).length - 1, tokenPlace(shown)]).toEqual([encodings, token]);
  });

  test('a file field that comes after its form was sent says so, at its place', async () => {
    const loom = await createLoom({
      sources: {
        'pages/a.html':
          '<form method="post"><p (await x = wait)><photo-field></photo-field></p><p (meanwhile)>…</p></form>'.replace(
            '<form',
            '<meta (takes wait)><form',
          ),
        'partials/photo-field.html': file,
      },
      secret: 'a secret for tests alone',
      mode: 'development',
      logger: false,
    });
    const exchange = await loom.exchange(new Request('http://harbour.test/', { headers: { cookie: 'loom-client=1' } }));
    const response = await exchange.respond(
      'a',
      { wait: new Promise((resolve) => setTimeout(resolve, 30)) },
      { order: 'late' },
    );
    expect(await response.text()).toContain('A file field cannot be in content that comes later');
  });
});

describe('what is told', () => {
  test.each<[string, page: string, codes: string[]]>([
    ['a file field in a form that asks by its URL', `<form>${file}</form>`, ['refused-file-field']],
    ['the same, with its method', `<form method="GET">${file}</form>`, ['refused-file-field']],
    ['the same, when it posts', `<form method="post">${file}</form>`, []],
    [
      'a field without a name',
      '<form method="post"><input><select></select><textarea></textarea></form>',
      ['missing-name', 'missing-name', 'missing-name'],
    ],
    [
      'buttons without a name',
      '<form method="post"><input type="submit"><input type="image" alt="x"><input type="reset"><button></button></form>',
      [],
    ],
    ['a field without a name that a script reads', '<form method="post"><input form=""></form>', []],
    ['a field without a name in a search', '<form><input></form>', []],
    ['a field whose name may come from a list', '<meta (takes more)><form method="post"><input ${...more}></form>', []],
    ['a bound form without a method', '<meta (takes form)><form (bind form)></form>', ['missing-method']],
    ['a bound form with one', '<meta (takes form)><form (bind form) method="get"></form>', []],
  ])('%s', async (_name, page, codes) => {
    const loom = await createLoom({
      sources: { 'pages/a.html': page },
      secret: 'a secret for tests alone',
      logger: false,
    });
    const found = loom.check().warnings;
    expect(found.map(({ code, severity }) => [code, severity])).toEqual(codes.map((code) => [code, 'warning']));
  });
});
