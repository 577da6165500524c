/** What developers see when something is wrong. */

import { describe, expect, jest, test } from '@jest/globals';
import { createLoom, LoomError, TemplateError } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
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
      'undefined-value',
      'partials/berth-card.html',
      3,
      5,
    ]);
    expect(error.diagnostic.message).toBe('“berth” is null.');
    // Whoever logs the message alone sees the place, the line and the calls.
    expect(error.message).toMatch(
      /^partials\/berth-card\.html:3:5 {2}undefined-value\n {2}3 \| {3}\$\{berth\.name\}<\/p>\n.*~\n {2}“berth” is null.*\n {2}pages\/page\.html:4 → partials\/berth-card\.html:3$/,
    );
    expect(error.format()).toContain('pages/page.html:4 → partials/berth-card.html:3');
    expect(error.cause).toBeInstanceOf(Error);
  });

  test('inside an expression of several lines', async () => {
    const error = await failure('<meta (takes a)>\n<p>${[\n  1,\n  a.b.c,\n]}</p>', { a: {} });
    expect([error.line, error.column]).toEqual([4, 3]);
  });

  test('in a layout, a clause and an attribute', async () => {
    const layout = '<html>\n<body title=${context.missing.field}><slot></slot></body></html>';
    const first = await failure('<meta (layout one-layout)>x', {}, { 'layouts/one-layout.html': layout });
    expect([first.file, first.line]).toEqual(['layouts/one-layout.html', 2]);
    const second = await failure('<meta (takes a)>\n\n<p (if a.b.c)>x</p>', { a: {} });
    expect([second.line, second.column]).toEqual([3, 8]);
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
      'There is no page “berths/lst” in pages/. Did you mean “berths/list”?',
    );
    const outside = await createLoom({ sources: { 'pages/a.html': 'x', 'about-us.html': 'y' }, layouts: {} });
    await expect(outside.render('about-us')).rejects.toThrow(
      'about-us.html is no page, for it lies outside: move it to pages/, or render it with renderTemplate(…).',
    );
    await expect(loom.renderTemplate('x')).rejects.toThrow(LoomError);
  });

  test.each([
    'pages/berths/list',
    '/berths/list',
    'berths/list.html',
    'templates/pages/berths/list.html',
    './berths/list',
  ])('a page by its path: %s', async (name) => {
    const loom = await createLoom({ sources: { 'pages/berths/list.html': 'x', 'partials/a-b.html': 'y' } });
    await expect(loom.render(name)).rejects.toThrow('Did you mean “berths/list”?');
    await expect(loom.renderTemplate('partials/a-b.html')).rejects.toThrow('Did you mean “a-b”?');
  });

  test('an error is printed once on the console, with its frame and what caused it', async () => {
    const printed: unknown[][] = [];
    const spy = jest.spyOn(console, 'error').mockImplementation((...args) => void printed.push(args));
    const loom = await createLoom({ sources: { 'pages/x.html': '<meta (takes a)>${a.b.c}' } });
    await loom.respond(new Request('http://harbour.test/'), 'x', { a: {} });
    spy.mockRestore();
    expect(printed).toEqual([[expect.any(String)]]);
    const lines = String(printed[0]?.[0]).split('\n');
    expect(lines[0]).toMatch(/^The page “x” failed\. \(page: x, url: http:\/\/harbour\.test\/, number: \d{4}-\d{4}\)$/);
    expect(lines.slice(1, 5)).toEqual([
      'pages/x.html:1:23  failed-expression',
      '  1 | <meta (takes a)>${a.b.c}',
      expect.stringMatching(/^ {4}\| +~$/),
      "  Cannot read properties of undefined (reading 'c').",
    ]);
    expect(lines[5]).toBe("Caused by TypeError: Cannot read properties of undefined (reading 'c')");
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

  test('shows developers the frame, and what the page was given but for secrets', async () => {
    const loom = await createLoom({ sources, mode: 'development', logger: quiet });
    const response = await loom.respond(request, 'b', { secret: { password: '<swordfish>' } });
    const text = await response.text();
    expect(response.status).toBe(500);
    expect(text).toContain('pages/b.html, line 1');
    expect(text).toContain('secret: not shown');
    expect(text).not.toContain('swordfish');
  });

  test.each([
    ...[
      'authorization',
      'Authorization',
      'cookie',
      'sessionId',
      'sessionid',
      'session_id',
      'pin',
      'PIN',
      'pinCode',
      'user_pin',
    ],
    ...[
      'csrf',
      'csrfToken',
      'x-csrf',
      'xsrfToken',
      'auth',
      'authHeader',
      'bearer',
      'apiKey',
      'api-key',
      'privateKey',
      'pwd',
      'pin2',
    ],
    ...['userPassword', 'passcode', 'refreshtoken', 'setCookie', 'otp', 'jwt', 'loomSession'],
  ])('hides %s, at any depth', async (name) => {
    const loom = await createLoom({ sources, mode: 'development', logger: quiet });
    for (const data of [
      { [name]: 'swordfish' },
      { request: { headers: { [name]: 'swordfish' } }, list: [{ [name]: 'swordfish' }] },
    ]) {
      const text = await (await loom.respond(request, 'b', data)).text();
      expect([text.includes('not shown'), text.includes('swordfish')]).toEqual([true, false]);
    }
  });

  test.each(['author', 'opinion', 'shipping', 'spinner', 'compass', 'passenger', 'sides'])('shows %s', async (name) => {
    const loom = await createLoom({ sources, mode: 'development', logger: quiet });
    expect(await (await loom.respond(request, 'b', { [name]: 'perch' })).text()).toContain('perch');
  });

  test.each<[host: string, origin: string | undefined, isShown: boolean]>([
    ['localhost:3000', undefined, true],
    ['127.0.0.1', undefined, true],
    ['[::1]:3000', undefined, true],
    ['192.168.1.7', undefined, true],
    ['boats.localhost', undefined, true],
    ['desk', undefined, true],
    ['desk.local', undefined, true],
    ['evil.com', undefined, false],
    ['localhost.evil.com', undefined, false],
    ['127.0.0.1.evil.com', undefined, false],
    ['127.0.0.1.nip.io', undefined, false],
    ['evil.com.', undefined, false],
    ['tunnel.dev', 'http://tunnel.dev', true],
    ['evil.com', 'http://tunnel.dev', false],
  ])('shows developers nothing who ask for %s, with the origin %p', async (host, origin, isShown) => {
    const logged: object[] = [];
    const logger = { warn: (details: object) => logged.push(details), error: () => {} };
    const loom = await createLoom({ sources, mode: 'development', logger, ...(origin ? { origin } : {}) });
    for (let twice = 0; twice < 2; twice++) {
      const text = await (await loom.respond(new Request(`http://${host}/`), 'b', { berths: 'perch' })).text();
      expect([host, text.includes('perch'), text.includes('pages/b.html')]).toEqual([host, isShown, isShown]);
    }
    expect(logged.filter((one) => 'code' in one && one.code === 'unknown-host')).toHaveLength(isShown ? 0 : 1);
  });

  test('shows developers values, and nothing of what forms are made of', async () => {
    class Boat {
      name = 'Tern';
    }
    const form = defineForm('boat', z.object({ name: z.string() })).from({ name: 'Fulmar' });
    const data = {
      boat: new Boat(),
      form,
      rows: [{ id: 1, at: new Date(0) }, 2, 3, 4],
      none: [],
      text: 'x'.repeat(100),
      get later() {
        throw new Error('asked');
      },
      f: () => 1,
      when: Promise.resolve(),
      deep: { a: { b: { c: { d: 1 } } } },
      map: new Map([[1, 2]]),
      big: 5n,
      nothing: null,
      bad: new Proxy(
        {},
        {
          ownKeys: () => {
            throw new Error('no');
          },
        },
      ),
    };
    const page = `<meta (takes ${Object.keys(data).join(', ')})>\${nothing.x}`;
    const loom = await createLoom({ sources: { 'pages/x.html': page }, mode: 'development', logger: quiet });
    const text = await (await loom.respond(request, 'x', data)).text();
    const shown = /aria-label="What the page was given">([^<]*)</
      .exec(text)?.[1]
      ?.replaceAll('&quot;', '"')
      .replaceAll('&gt;', '>');
    expect(shown?.split('\n')).toEqual([
      'boat: Boat { name: "Tern" }',
      'form: form “boat” of { name: "Fulmar" }',
      'rows: list of 4: { id: 1, at: 1970-01-01T00:00:00.000Z }, 2, 3, …',
      'none: an empty list',
      `text: "${'x'.repeat(60)}…"`,
      'later: worked out when it is read',
      'f: a function',
      'when: a promise',
      'deep: { a: { b: { … } } }',
      'map: Map of 1',
      'big: 5n',
      'nothing: null',
      'bad: an object that cannot be looked at',
    ]);
  });

  test('for developers has of the stack what is theirs', async () => {
    const helpers = {
      owner() {
        throw new Error('the database is away');
      },
    };
    const loom = await createLoom({
      sources: { 'pages/x.html': '${owner()}' },
      mode: 'development',
      logger: quiet,
      helpers,
    });
    const text = await (await loom.respond(request, 'x')).text();
    const stack = /aria-label="Stack">([^<]*)</.exec(text)?.[1] ?? '';
    expect(stack).toMatch(/^Error: the database is away.*at (?:Object\.)?owner .*errors\.test\.ts/s);
    expect(stack).not.toContain('zip-loom-template:');
  });

  test('for developers has its styles under a policy with a nonce', async () => {
    const loom = await createLoom({ sources, mode: 'development', logger: quiet, context: () => ({ nonce: 'n0nce' }) });
    expect(await (await loom.respond(request, 'b', { secret: {} })).text()).toContain('<style nonce="n0nce">');
  });

  describe('in place of a page that failed, for visitors', () => {
    const own = {
      ...sources,
      'layouts/site-layout.html': '<body><nav>Tern Harbour ${context.page}</nav><slot></slot></body>',
      'pages/error.html': '<meta (layout site-layout) (takes number)><p>Number ${number}</p>',
      'pages/plain.html': '<p>Sorry</p>',
      'pages/broken.html': '<meta (takes number)>${number.x.y}',
      'pages/waits.html': '<p (await x = wait())>${x}</p>',
      'pages/takes.html': '<meta (takes message)>${message}',
    };
    const answer = async (errorPage?: string) => {
      const errors: Array<{ number?: string }> = [];
      const logger = { warn: () => {}, error: (details: object) => errors.push(details) };
      const helpers = { wait: () => Promise.resolve(1) };
      const loom = await createLoom({ sources: own, logger, helpers, ...(errorPage ? { errorPage } : {}) });
      const response = await loom.respond(request, 'b', { secret: {} });
      return { status: response.status, text: await response.text(), errors };
    };

    test('the project’s own page is there, with a number that the log has', async () => {
      const { status, text, errors } = await answer('error');
      expect([status, errors.length]).toEqual([500, 1]);
      expect(errors[0]?.number).toMatch(/^\d{4}-\d{4}$/);
      expect(text).toBe(`<body><nav>Tern Harbour error</nav><p>Number ${errors[0]?.number}</p></body>`);
      expect((await answer('plain')).text).toBe('<p>Sorry</p>');
    });

    test.each(['broken', 'waits', undefined])('the plain page is there where that fails too: %s', async (name) => {
      const { status, text, errors } = await answer(name);
      expect([status, errors.length]).toEqual([500, name ? 2 : 1]);
      expect(text).toContain(`<p>If you write to us about it, please quote the number ${errors[0]?.number}.</p>`);
    });

    test.each([
      ['nowhere', 'The option “errorPage” names the page “nowhere”, but there is none.'],
      ['takes', 'The error page “takes” takes message, which nobody can give it.'],
    ])('a page that cannot be it is told at the start: %s', async (errorPage, message) => {
      await expect(answer(errorPage)).rejects.toThrow(message);
    });
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
