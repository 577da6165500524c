/** What developers see when something is wrong. */

import { describe, expect, test } from '@jest/globals';
import { createLoom, LoomError, TemplateError } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';
import { errors, failure } from '../support/templates.ts';

declare module 'zip-loom' {
  interface LoomContext {
    visitor?: string;
  }
}

const list = `<meta (takes berths)>
<h1>Berths</h1>
<ul>
  <li (for berth of berths)><berth-card berth=\${berth}></berth-card></li>
</ul>
`;

describe('an error at compile time', () => {
  test('shows the place, the line, the fix', async () => {
    const [error] = await errors(list.replace('${berth}', '${bert}'), {
      'partials/berth-card.html': '<meta (takes berth)>${berth.name}',
    });
    expect(error!.format()).toBe(
      [
        'pages/page.html:4:49  unknown-name',
        '  4 |   <li (for berth of berths)><berth-card berth=${bert}></berth-card></li>',
        '    |                                                 ~~~~',
        '  There is no “bert” here. Did you mean “berth”?',
      ].join('\n'),
    );
  });

  test('is thrown with all others of the page', async () => {
    const error = await failure('<p>${a}</p>\n<p>${b}</p>');
    expect([error.line, error.others.map((other) => other.line)]).toEqual([1, [2]]);
    expect(error.stack).toContain('There is no “b” here.');
  });

  test('tabs and long lines keep the mark under its place', async () => {
    const [error] = await errors(`\t<p>${'x'.repeat(300)}\${nothing}</p>`);
    const [line, mark] = error!.frame.split('\n');
    expect(line!.slice(mark!.indexOf('~'), mark!.lastIndexOf('~') + 1)).toBe('nothing');
  });

  test('stops a production loom at its start', async () => {
    await expect(createLoom({ sources: { 'pages/a.html': 'x', 'pages/b.html': '${nothing}' } })).rejects.toThrow(
      TemplateError,
    );
  });
});

describe('an error while rendering', () => {
  test('has the line and column of the template and the chain of calls', async () => {
    const error = await failure(
      list,
      { berths: [{ name: 'A' }, null] },
      { 'partials/berth-card.html': '<meta (takes berth)>\n<p>\n  ${berth.name}</p>' },
    );
    expect([error.code, error.file, error.line, error.column]).toEqual([
      'failed-expression',
      'partials/berth-card.html',
      3,
      11,
    ]);
    expect(error.diagnostic.message).toMatch(/^Cannot read properties of null/);
    // Whoever logs the message alone sees the place, the line and the calls.
    expect(error.message).toMatch(
      /^partials\/berth-card\.html:3:11 {2}failed-expression\n {2}3 \| {3}\$\{berth\.name\}<\/p>\n.*~\n {2}Cannot read properties of null.*\n {2}pages\/page\.html:4 → partials\/berth-card\.html:3$/,
    );
    expect(error.format()).toContain('pages/page.html:4 → partials/berth-card.html:3');
    expect(error.cause).toBeInstanceOf(TypeError);
  });

  test('inside an expression of several lines', async () => {
    const error = await failure('<meta (takes a)>\n<p>${[\n  1,\n  a.b.c,\n]}</p>', { a: {} });
    expect([error.line, error.column]).toEqual([4, 7]);
  });

  test('in a layout, a clause and an attribute', async () => {
    const layout = '<html>\n<body title=${context.missing.field}><slot></slot></body></html>';
    const first = await failure('<meta (layout one-layout)>x', {}, { 'layouts/one-layout.html': layout });
    expect([first.file, first.line]).toEqual(['layouts/one-layout.html', 2]);
    const second = await failure('<meta (takes a)>\n\n<p (if a.b.c)>x</p>', { a: {} });
    expect([second.line, second.column]).toEqual([3, 12]);
  });

  test('thrown by a helper, at the place that calls it', async () => {
    const helpers = {
      boom: () => {
        throw new Error('No such knot');
      },
    };
    const loom = await createLoom({ sources: { 'pages/a.html': '<p>\n${boom()}' }, helpers });
    await expect(loom.render('a')).rejects.toMatchObject({
      line: 2,
      column: 3,
      diagnostic: { message: 'No such knot.' },
    });
  });
});

describe('a wrong call', () => {
  test('a page rendered without what it takes', async () => {
    const error = await failure(list, { berth: [] }, { 'partials/berth-card.html': '<meta (takes berth)>${berth}' });
    expect(error.diagnostic.message).toBe('page takes berths, which was not given; it was given berth.');
    expect([error.code, error.line]).toEqual(['missing-argument', 1]);
  });

  test('an unknown page', async () => {
    const loom = await createLoom({ sources: { 'pages/berths/list.html': 'x' } });
    await expect(loom.render('berths/lst')).rejects.toThrow(
      'There is no page “berths/lst”. Did you mean “berths/list”?',
    );
    await expect(loom.partial('x')).rejects.toThrow(LoomError);
  });

  test('no templates at all', async () => {
    await expect(createLoom({})).rejects.toThrow(/needs templates/);
  });
});

describe('an answer', () => {
  const sources = {
    'pages/a.html': '<p>${context.visitor}</p>',
    'pages/b.html': '<meta (takes secret)><p>${secret.x.y}</p>',
  };
  const request = new Request('http://harbour.test/a?x=1');
  const quiet = quietLogger;

  test('has the page, its type and the context', async () => {
    const loom = await createLoom({ sources, context: async () => ({ visitor: 'Ada' }) });
    const response = await loom.respond(request, 'a', {}, { status: 201, headers: { 'x-a': 'b' } });
    expect([
      response.status,
      response.headers.get('content-type'),
      response.headers.get('x-a'),
      await response.text(),
    ]).toEqual([201, 'text/html; charset=utf-8', 'b', '<p>Ada</p>']);
  });

  test('to HEAD has no body', async () => {
    const loom = await createLoom({ sources });
    expect(await (await loom.respond(new Request(request, { method: 'HEAD' }), 'a')).text()).toBe('');
  });

  test.each([204, 205, 304])('of status %i has no body', async (status) => {
    const loom = await createLoom({ sources });
    const response = await loom.respond(request, 'a', {}, { status });
    expect([response.status, await response.text()]).toEqual([status, '']);
  });

  test.each([101, 600, 1.5, Number.NaN])('cannot have the status %p', async (status) => {
    const logged: object[] = [];
    const loom = await createLoom({ sources, logger: { warn: () => {}, error: (details) => logged.push(details) } });
    expect((await loom.respond(request, 'a', {}, { status })).status).toBe(500);
    expect(logged).toMatchObject([{ err: { code: 'invalid-status' } }]);
  });

  test('shows developers the frame, and what the page was given without its values', async () => {
    const loom = await createLoom({ sources, mode: 'development', logger: quiet });
    const response = await loom.respond(request, 'b', { secret: { password: '<swordfish>' } });
    const text = await response.text();
    expect(response.status).toBe(500);
    expect(text).toContain('pages/b.html, line 1');
    expect(text).toContain('secret: object (password)');
    expect(text).not.toContain('swordfish');
  });

  test('shows visitors nothing of the template, and tells the logger', async () => {
    const logged: object[] = [];
    const loom = await createLoom({ sources, logger: { warn: () => {}, error: (details) => logged.push(details) } });
    const response = await loom.respond(request, 'b', { secret: {} });
    expect([response.status, response.headers.get('cache-control')]).toEqual([500, 'no-store']);
    expect(await response.text()).not.toMatch(/secret|pages|b\.html/);
    expect(logged).toMatchObject([{ page: 'b', err: { code: 'failed-expression' } }]);
  });
});
