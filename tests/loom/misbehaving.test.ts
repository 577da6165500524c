/** Data that misbehaves, errors that cannot be looked at, readers who leave: an answer comes, and nothing ends the process. */

import { Readable } from 'node:stream';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, type LoomOptions, TemplateError } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';
import { quietLogger } from '../support/settings.ts';

/** Lets everything that is due happen, so that a promise nobody listens to would be noticed. */
const settle = () => new Promise((resolve) => setTimeout(resolve, 15));
const fails = (): Promise<never> => Promise.reject(new Error('nobody reads this'));
const request = (signal?: AbortSignal) => new Request('http://harbour.test/', signal ? { signal } : {});

let unhandled: unknown[];
const note = (reason: unknown) => unhandled.push(reason);
beforeEach(() => {
  unhandled = [];
  process.on('unhandledRejection', note);
});
afterEach(async () => {
  await settle();
  process.off('unhandledRejection', note);
  expect(unhandled).toEqual([]);
});

const loomOf = (page: string, options: LoomOptions = {}): Promise<Loom> =>
  createLoom({ logger: quietLogger, sources: { 'pages/page.html': `<meta (takes a, b?)>${page}` }, ...options });

class Boat {
  name = 'Tern';
  late = fails();
  get broken(): string {
    throw new Error('a getter');
  }
}

describe('promises that fail unread', () => {
  const places: Array<[string, () => unknown]> = [
    ['alone', fails],
    ['in an object of an object', () => ({ b: { c: { d: fails() } } })],
    ['in an instance of a class', () => new Boat()],
    ['in a list of instances', () => [[new Boat()]]],
    ['behind two hundred others', () => Array.from({ length: 1000 }, (_, at) => (at === 999 ? fails() : at))],
    ['in a late row', () => Array.from({ length: 500 }, (_, at) => ({ at, late: at === 400 ? fails() : null }))],
    ['in a map and a set', () => new Map([['x', new Set([fails()])]])],
    ['of a class of its own', () => new (class extends Promise<never> {})((_, reject) => reject(new Error('x')))],
    ['beside data that leads in a circle', () => circle()],
    ['beside a list of bytes', () => ({ bytes: new Uint8Array(10_000_000), late: fails() })],
  ];

  test.each(places)('%s', async (_name, make) => {
    const loom = await loomOf('<p>x</p>');
    expect(loom.renderSync('page', { a: make() })).toBe('<p>x</p>');
    expect((await loom.respond(request(), 'page', { a: make() })).status).toBe(200);
    expect((await loom.respond(request(), 'page', { b: make() })).status).toBe(500);
    expect((await loom.respond(request(), 'nowhere', { a: make() })).status).toBe(500);
    expect((await loom.respond(request(), 'page', { a: make() }, { status: 7 })).status).toBe(500);
  });

  test.each([
    ['printed', '${a()}'],
    ['printed among others', '${[1, a(), a()]}'],
    ['of a getter, printed', '${b.late}'],
    ['of a getter, asked', '<p (if b.late)>x</p>'],
    ['in an attribute', '<p title=${a()}>x</p>'],
    ['in a boolean attribute', '<input disabled=${a()}>'],
    ['in a list of tokens', '<p class=${[a(), a()]}>x</p>'],
    ['in an address', '<a href="/x/${a()}">x</a>'],
    ['as a condition', '<p (if a())>x</p>'],
    ['as an alternative', '<p (if 0)>x</p><p (else if b && a())>y</p>'],
    ['named', '<p (let x = a())>x</p>'],
    ['repeated', '<p (for x of a())>x</p>'],
    ['handed on', '<x-y x=${a()}/>'],
    ['as a form', '<p (bind a())>x</p>'],
  ])('made by a function, %s', async (_name, page) => {
    const loom = await loomOf(page, {
      sources: { 'pages/page.html': `<meta (takes a, b?)>${page}`, 'partials/x-y.html': '<meta (takes x)>x' },
    });
    const b = {
      get late() {
        return fails();
      },
    };
    expect([200, 500]).toContain((await loom.respond(request(), 'page', { a: fails, b })).status);
  });

  test('data is looked at as often by the loom as by an exchange: once before the page', async () => {
    const looksOf = async (answer: (loom: Loom, data: object) => Promise<Response>) => {
      let looks = 0;
      const row = new Proxy(
        { b: 1 },
        {
          ownKeys(target) {
            looks++;
            return Reflect.ownKeys(target);
          },
        },
      );
      const response = await answer(await loomOf('${a[0].b}'), { a: [row] });
      expect(await response.text()).toContain('1');
      return looks;
    };
    expect(await looksOf((loom, data) => loom.respond(request(), 'page', data))).toBe(1);
    expect(await looksOf(async (loom, data) => (await loom.exchange(request())).respond('page', data))).toBe(1);
  });

  test('a value that begins its work when it is asked is not asked', async () => {
    let asked = 0;
    const query = Object.fromEntries([['then', () => asked++]]);
    const loom = await loomOf('x');
    await loom.render('page', { a: [query], b: query });
    expect(asked).toBe(0);
  });
});

function circle(): unknown {
  const one: Record<string, unknown> = { late: fails() };
  one['self'] = [one, { one }];
  return one;
}

describe('data that fails when it is looked at', () => {
  const hostile = new Proxy(
    {},
    {
      get() {
        throw new Error('get');
      },
      ownKeys() {
        throw new Error('ownKeys');
      },
      getPrototypeOf() {
        throw new Error('getPrototypeOf');
      },
      has() {
        throw new Error('has');
      },
    },
  );
  const getters = () =>
    Object.defineProperties(
      {},
      {
        a: { enumerable: true, get: () => fails() },
        b: {
          enumerable: true,
          get() {
            throw new Error('b');
          },
        },
      },
    );

  test.each<[string, string, unknown]>([
    ['a proxy', 'x', { a: hostile }],
    ['a proxy that is printed', '${a}', { a: hostile }],
    ['a proxy that is repeated', '<p (for x of a)>x</p>', { a: hostile }],
    ['a proxy that is awaited', '<p (await x = a)>x</p>', { a: hostile }],
    ['a proxy as the data', 'x', hostile],
    ['getters that fail', '${a}${b}', getters()],
    ['nothing', 'x', null],
    ['a text as the data', 'x', 'text'],
    ['a list that is none', '<p (for x of a)>x</p>', { a: { [Symbol.iterator]: 1 } }],
    ['a slow list that is none', '<p (for x of a)>x</p>', { a: { [Symbol.asyncIterator]: 1 } }],
    ['a slow list that gives nothing', '<p (for x of a)>x</p>', { a: { [Symbol.asyncIterator]: () => ({}) } }],
  ])('%s', async (_name, page, data) => {
    for (const mode of ['production', 'development'] as const) {
      const loom = await loomOf(page, { mode });
      const response = await loom.respond(request(), 'page', data as object);
      expect([200, 500]).toContain(response.status);
      expect((await response.text()).length).toBeGreaterThan(0);
    }
  });

  test('what every object has is not given', async () => {
    const loom = await createLoom({
      logger: quietLogger,
      sources: { 'pages/p.html': '<meta (takes toString)>${toString}' },
    });
    expect(() => loom.renderSync('p', {})).toThrow(/takes toString, which was not given/);
  });

  test('a status and a form are told by what they are, not by what a visitor can send', async () => {
    const loom = await loomOf('x');
    const sent = JSON.parse('{"ok": false, "refuse": true, "status": 403}') as object;
    expect((await loom.respond(request(), 'page', { a: sent })).status).toBe(200);
    const form = defineForm('boat', z.object({ name: z.string() }));
    const post = new Request('http://harbour.test/', { method: 'POST', body: new URLSearchParams() });
    const refused = await form.read(post, { token: false });
    expect((await loom.respond(request(), 'page', { a: refused })).status).toBe(422);
  });
});

describe('errors that cannot be looked at', () => {
  const again = new Error('again');
  const throwing = () => {
    throw again;
  };
  const thrown: Array<[string, () => unknown]> = [
    ['nothing', () => undefined],
    ['null', () => null],
    ['a symbol', () => Symbol('x')],
    ['an object without a prototype', () => Object.create(null)],
    ['an object whose text fails', () => ({ toString: throwing })],
    ['an error whose message fails', () => Object.defineProperty(new Error('x'), 'message', { get: throwing })],
    ['an error whose stack fails', () => Object.defineProperty(new Error('x'), 'stack', { get: throwing })],
    ['an error whose message is no text', () => Object.assign(new Error('x'), { message: { more: 1 } })],
    ['an error whose stack is no text', () => Object.assign(new Error('x'), { stack: [throwing] })],
    [
      'an error with a field that fails',
      () => Object.defineProperty(new Error('x'), 'more', { get: throwing, enumerable: true }),
    ],
    ['a proxy', () => new Proxy(new Error('x'), { get: throwing, getPrototypeOf: throwing })],
  ];

  test.each(thrown)('%s', async (_name, make) => {
    const error = make();
    let last: unknown;
    const a = () => {
      last = make();
      throw last;
    };
    for (const mode of ['production', 'development'] as const) {
      // As strict as a logger: quietLogger can be: it reads every field of what it is given.
      const told: string[] = [];
      const reads = (details: object, message: string) => {
        JSON.stringify(Object.values(details).map((value) => ({ ...value })));
        told.push(message);
      };
      const loom = await loomOf('${a()}', { mode, logger: { warn: reads, error: reads } });
      const response = await loom.respond(request(), 'page', { a });
      expect(response.status).toBe(500);
      expect(await response.text()).toContain('<h1>');
      expect(told).toEqual(['The page “page” failed.']);
      const failure = await loom.render('page', { a }).catch((thrown: unknown) => [thrown]);
      // What was thrown, or where it was thrown.
      expect(failure[0] === last || failure[0] instanceof TemplateError).toBe(true);
      const late = await loomOf('<p (await x = a)>x</p><i (catch error)>sorry</i>', {
        mode,
        logger: { warn: reads, error: reads },
      });
      const waits = await late.respond(request(), 'page', { a: Promise.reject(error) });
      expect(await waits.text()).toBe('<i>sorry</i>');
    }
  });

  test('a logger that fails does not fail the answer', async () => {
    const loom = await loomOf('${a.b.c}', { logger: { warn: throwing, error: throwing } });
    expect((await loom.respond(request(), 'page', { a: 1 })).status).toBe(500);
  });
});

describe('a reader who leaves', () => {
  function source() {
    const seen = { closed: 0, begun: 0 };
    async function* rows() {
      seen.begun++;
      try {
        for (let at = 0; ; at++) yield await new Promise((resolve) => setTimeout(resolve, 1, at));
      } finally {
        seen.closed++;
      }
    }
    return { rows: rows(), seen };
  }

  test.each([
    ['before the answer', 0],
    ['while it is waited for', 10],
  ])('%s: lists are closed, and respond comes to an end', async (_name, delay) => {
    const { rows, seen } = source();
    const controller = new AbortController();
    const loom = await loomOf('<p (region r)><i (for x of a)>x</i></p>');
    if (delay === 0) controller.abort();
    else setTimeout(() => controller.abort(), delay);
    const asking = new Request('http://harbour.test/', {
      signal: controller.signal,
      headers: { 'loom-region': 'r', 'loom-page': 'page' },
    });
    await loom.respond(asking, 'page', { a: rows });
    await settle();
    expect(seen.closed).toBe(seen.begun);
    expect(await rows.next()).toEqual({ done: true, value: undefined });
  });

  test('while a value is waited for that never comes: the lists after it are closed, streams of files too', async () => {
    const { rows } = source();
    const stream = Readable.from(['x']);
    const loom = await loomOf('<p (await x = a)>x<i (for y of b.rows)>y</i><i (for z of b.stream)>z</i></p>');
    const response = await loom.respond(request(), 'page', { a: new Promise(() => {}), b: { rows, stream } });
    const reader = response.body!.getReader();
    const read = reader.read();
    await settle();
    await reader.cancel();
    await read;
    expect([(await rows.next()).done, stream.destroyed]).toEqual([true, true]);
  });

  test('a page that fails closes the lists that it did not come to', async () => {
    const { rows } = source();
    const stream = Readable.from(['x']);
    const loom = await loomOf('${a.x.y}<i (for z of b)>z</i>');
    await expect(loom.render('page', { a: 1, b: [rows, stream] })).rejects.toThrow();
    expect([(await rows.next()).done, stream.destroyed]).toEqual([true, true]);
    const other = source().rows;
    expect((await loom.respond(request(), 'page', { a: 1, b: other })).status).toBe(500);
    expect((await other.next()).done).toBe(true);
  });
});

describe('long pages', () => {
  test('a page without waiting is streamed in pieces, at the pace of the reader', async () => {
    const loom = await loomOf('<p>${a}</p>');
    const reader = loom.stream('page', { a: '😀'.repeat(100_000) }).getReader();
    const decoder = new TextDecoder('utf-8', { fatal: true });
    let text = '';
    let pieces = 0;
    for (let read = await reader.read(); !read.done; read = await reader.read()) {
      expect(read.value.length).toBeLessThan(100_000);
      text += decoder.decode(read.value);
      pieces++;
    }
    expect(text).toBe(`<p>${'😀'.repeat(100_000)}</p>`);
    expect(pieces).toBeGreaterThan(5);
  });

  test.each(['stream', 'render'] as const)(
    'a list that is there at once lets others have their turn: %s',
    async (how) => {
      async function* rows() {
        for (let at = 0; at < 20_000; at++) yield 'x'.repeat(100);
      }
      const loom = await loomOf('<p (for x of a)>${x}</p>');
      let turns = 0;
      const timer = setInterval(() => turns++, 0);
      if (how === 'render') await loom.render('page', { a: rows() });
      else await new Response(loom.stream('page', { a: rows() })).text();
      clearInterval(timer);
      expect(turns).toBeGreaterThan(10);
    },
  );
});

describe('a limit for waiting', () => {
  const never = () => new Promise(() => {});

  test('a value that does not come is caught, or its place shows that it is missing', async () => {
    const logged: string[] = [];
    const loom = await loomOf('<p (await x = a)>x</p><i (catch error)>${error.message}</i><b (await y = b)>y</b>', {
      timeout: 20,
      logger: { warn() {}, error: (details) => logged.push((details as { err: { code: string } }).err.code) },
    });
    const text = await (await loom.respond(request(), 'page', { a: never(), b: never() })).text();
    expect(text).toContain('<i>A value did not come within 20 ms.</i>');
    expect(text).toContain('could not be shown');
    expect(logged).toEqual(['late-value']);
    await expect(loom.render('page', { a: 1, b: never() })).rejects.toThrow('did not come within 20 ms');
  });

  test('so is an item of a list, whose source is closed', async () => {
    let closed = false;
    const rows = {
      [Symbol.asyncIterator]: () => ({
        next: never,
        return: async () => {
          closed = true;
        },
      }),
    };
    const loom = await loomOf('<p (for x of a)>x</p>', { timeout: 20 });
    expect(await new Response(loom.stream('page', { a: rows })).text()).toContain('could not be shown');
    expect(closed).toBe(true);
  });

  test('what comes in time is not disturbed', async () => {
    const loom = await loomOf('<p (await x = a)>${x}</p>', { timeout: 1000 });
    expect(await loom.render('page', { a: settle().then(() => 'here') })).toBe('<p>here</p>');
  });
});
