/** Handlers that are written for the Fetch standard need no change, whatever they do with requests and answers. */
import type { RequestListener } from 'node:http';
import { connect } from 'node:net';
import { afterEach, describe, expect, test } from '@jest/globals';
import { createLoom } from 'zip-loom';
import { type Handler, nodeListener, respondTo } from 'zip-loom/node';
import { open } from '../support/servers.ts';
import { quietLogger } from '../support/settings.ts';

let close: (() => Promise<void>) | undefined;
async function visit(listener: RequestListener): Promise<string> {
  const server = await open(listener);
  close = server.close;
  return server.url;
}
afterEach(async () => {
  await close?.();
  close = undefined;
});

const both = [
  ['light', false],
  ['the platform’s own', true],
] as const;

/** Node 24 and later keep what is in a request where no other class can reach it. */
const isOpenPlatform = Number(process.versions.node.split('.')[0]) < 24;

describe.each(both)('requests that are %s', (_name, standardObjects) => {
  const listen = (handler: Handler) => visit(nodeListener(handler, { standardObjects }));

  test.each<[string, (request: Request) => unknown, unknown]>([
    ['its class', (request) => request instanceof Request, true],
    ['method and URL', ({ method, url }) => `${method} ${new URL(url).pathname}`, 'POST /a/b'],
    [
      'headers',
      ({ headers }) => [headers.get('X-One'), headers.has('x-two'), headers instanceof Headers],
      ['1', false, true],
    ],
    ['all headers', ({ headers }) => [...headers].some(([name, value]) => name === 'x-one' && value === '1'), true],
    ['text', (request) => request.text(), 'a=1&b=2'],
    ['json', async (request) => (await request.json().catch((error: Error) => error.name)) as unknown, 'SyntaxError'],
    ['bytes', async (request) => (await request.arrayBuffer()).byteLength, 7],
    ['form', async (request) => (await request.formData()).get('b'), '2'],
    ['a clone', async (request) => [await request.clone().text(), await request.text()], ['a=1&b=2', 'a=1&b=2']],
    [
      'whether the body was used',
      async (request) => {
        const before = request.bodyUsed;
        await request.text();
        return [before, request.bodyUsed];
      },
      [false, true],
    ],
    [
      'a second reading',
      async (request) => [await request.text(), await request.text().catch((error: Error) => error.name)],
      ['a=1&b=2', 'TypeError'],
    ],
    ['the body as a stream', async ({ body }) => new Response(body).text(), 'a=1&b=2'],
    [
      'another request made of its parts',
      (request) =>
        new Request('http://x.test/', {
          method: request.method,
          headers: request.headers,
          body: request.body,
          duplex: 'half',
        } as RequestInit).text(),
      'a=1&b=2',
    ],
    ['the rest', ({ signal, redirect, mode }) => [signal.aborted, redirect, mode], [false, 'follow', 'cors']],
    ['a string of its kind', (request) => Object.prototype.toString.call(request), '[object Request]'],
  ])('%s', async (_what, look, expected) => {
    let seen: unknown;
    const url = await listen(async (request) => {
      seen = await look(request);
      return new Response('x');
    });
    await fetch(`${url}/a/b`, {
      method: 'POST',
      body: 'a=1&b=2',
      headers: { 'x-one': '1', 'content-type': 'application/x-www-form-urlencoded' },
    });
    expect(seen).toEqual(expected);
  });

  test('code of the platform looks into them, where it can', async () => {
    let seen: unknown;
    const url = await listen(async (request) => {
      seen = await Promise.resolve()
        .then(() => new Request(request, { headers: { 'x-two': '2' } }).text())
        .catch((error: Error) => error.name);
      return new Response('x');
    });
    await fetch(url, { method: 'POST', body: 'text' });
    expect(seen).toBe(standardObjects || isOpenPlatform ? 'text' : 'TypeError');
  });

  test('the signal tells when the reader leaves, whenever it is asked for', async () => {
    const told: string[] = [];
    let arrive = () => {};
    const arrived = new Promise<void>((resolve) => {
      arrive = resolve;
    });
    const url = await listen(async ({ signal }) => {
      signal.addEventListener('abort', () => told.push('left'));
      arrive();
      return new Promise(() => {});
    });
    const socket = connect(Number(new URL(url).port), '127.0.0.1', () =>
      socket.write('GET / HTTP/1.1\r\nHost: x\r\n\r\n'),
    );
    await arrived;
    socket.destroy();
    while (told.length === 0) await new Promise((resolve) => setTimeout(resolve, 5));
    expect(told).toEqual(['left']);
  });
});

describe.each(both)('answers that are %s', (_name, standardObjects) => {
  const listen = async (change: (response: Response) => Response | Promise<Response>) => {
    const loom = await createLoom({
      sources: {
        'pages/whole.html': '<p>käse</p>',
        'pages/late.html': '<meta (takes slow)>käse <b (await value = slow)>${value}</b>',
      },
      logger: quietLogger,
    });
    const slow = () => new Promise<string>((resolve) => setTimeout(resolve, 5, 'late'));
    return visit(
      nodeListener(
        async (request) =>
          change(
            request.url.endsWith('/late')
              ? await loom.respond(request, 'late', { slow: slow() })
              : await loom.respond(request, 'whole', {}, { status: 203, headers: { 'x-one': '1' } }),
          ),
        { standardObjects },
      ),
    );
  };

  test.each<[string, (response: Response) => Response | Promise<Response>, Record<string, unknown>]>([
    ['as it is', (response) => response, { status: 203, one: '1', text: '<p>käse</p>' }],
    ['its class', (response) => new Response(String(response instanceof Response)), { status: 200, text: 'true' }],
    [
      'other headers',
      (response) => {
        response.headers.set('x-one', '2');
        response.headers.append('set-cookie', 'a=1');
        return response;
      },
      { status: 203, one: '2', cookies: ['a=1'], text: '<p>käse</p>' },
    ],
    [
      'headers that are changed after more was asked for',
      async (response) => {
        const { headers } = response;
        const copy = response.clone();
        headers.set('x-one', await copy.text().then((text) => String(text.length)));
        return response;
      },
      { status: 203, one: '11', text: '<p>käse</p>' },
    ],
    ['a clone of it', (response) => response.clone(), { status: 203, one: '1', text: '<p>käse</p>' }],
    [
      'another one of it',
      (response) => new Response(response.body, response),
      { status: 203, one: '1', text: '<p>käse</p>' },
    ],
    [
      'another one with other text',
      async (response) => new Response((await response.text()).toUpperCase(), response),
      { status: 203, one: '1', text: '<P>KÄSE</P>' },
    ],
    [
      'what it says of itself',
      ({ ok, statusText, type, redirected }) => Response.json([ok, statusText, type, redirected]),
      { text: '[true,"","default",false]' },
    ],
  ])('%s', async (_what, change, { status, one, cookies, text }) => {
    const response = await fetch(await listen(change));
    if (status !== undefined) expect(response.status).toBe(status);
    if (one !== undefined) expect(response.headers.get('x-one')).toBe(one);
    if (cookies !== undefined) expect(response.headers.getSetCookie()).toEqual(cookies);
    expect(await response.text()).toBe(text);
  });

  test.each<[string, (response: Response) => Response]>([
    ['as it is', (response) => response],
    ['its body looked at', (response) => (response.body ? response : new Response())],
    ['a clone of it', (response) => response.clone()],
    ['another one of it', (response) => new Response(response.body, response)],
  ])('what comes late: %s', async (_what, change) => {
    expect(await (await fetch(`${await listen(change)}/late`)).text()).toBe('käse <b>late</b>');
  });

  test('a second answer changes nothing of the first', async () => {
    const kept = console.error;
    const said: unknown[] = [];
    console.error = (text: unknown) => said.push(text);
    const loom = await createLoom({ sources: { 'pages/page.html': '<meta (takes n)>${n}' }, logger: quietLogger });
    const url = await visit(async (req, res) => {
      await respondTo(loom, req, res, 'page', { n: 'x'.repeat(200_000) });
      await respondTo(loom, req, res, 'page', { n: 'second' });
    });
    expect(await (await fetch(url)).text()).toBe('x'.repeat(200_000));
    console.error = kept;
    expect(said).toEqual([expect.stringContaining('ERR_HTTP_HEADERS_SENT')]);
  });

  test('one that was read already is a 500, not an empty page', async () => {
    const kept = console.error;
    console.error = () => {};
    const url = await listen(async (response) => {
      await response.text();
      return response;
    });
    expect((await fetch(url)).status).toBe(500);
    console.error = kept;
  });
});
