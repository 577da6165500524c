/** Handlers of the Fetch standard and of `(req, res)` give the same answers, member by member. */
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createLoom, type Exchange, type Loom, put } from 'zip-loom';
import { createChannels, memoryBroker } from 'zip-loom/channels';
import { defineForm } from 'zip-loom/forms';
import { nodeExchange, nodeListener } from 'zip-loom/node';
import { z } from 'zod';
import { quietLogger, secret } from '../support/settings.ts';

const boat = defineForm('boat', z.object({ name: z.string().min(2), berth: z.string().optional() }), {
  choices: { berth: async () => ['A1', 'B2'] },
});
let loom: Loom;
let server: Server;
let site: string;
const channels = () => made;
let made: ReturnType<typeof createChannels>;

/** What both kinds of exchange are asked for; what one gives is answered, what the other writes is written. */
type Both = (exchange: Exchange) => unknown;
const members: Array<[member: string, use: Both, method: string]> = [
  ['respond', (exchange) => exchange.respond('home' as never, { n: 1 } as never), 'GET'],
  [
    'respond with a form that asks',
    (exchange) => exchange.respond('form' as never, { form: boat.blank() } as never),
    'GET',
  ],
  [
    'prepare',
    async (exchange) => exchange.respond('form' as never, { form: await exchange.prepare(boat.blank()) } as never),
    'GET',
  ],
  [
    'read',
    async (exchange) =>
      exchange.respond('form' as never, { form: await exchange.read(boat, { only: ['name'] }) } as never),
    'POST',
  ],
  [
    'readQuery',
    async (exchange) => exchange.respond('form' as never, { form: await exchange.readQuery(boat) } as never),
    'GET',
  ],
  ['changes', (exchange) => exchange.changes([put('a-word', {}).inside('a')], { fallback: '/' }), 'POST'],
  [
    'page in changes',
    (exchange) =>
      exchange.changes([put('a-word', {}).inside('a')], {
        fallback: exchange.page('home' as never, { n: 2 } as never),
      }),
    'POST',
  ],
  ['redirect', (exchange) => exchange.redirect('/there', { flash: 'Saved' }), 'GET'],
  ['redirectToReferrer', (exchange) => exchange.redirectToReferrer('/otherwise'), 'GET'],
  ['errorPage', (exchange) => exchange.errorPage(404), 'GET'],
  [
    'flash',
    (exchange) => {
      exchange.flash('One');
      return exchange.respond('home' as never, { n: 1 } as never);
    },
    'GET',
  ],
  [
    'rotateSession',
    (exchange) => {
      exchange.rotateSession();
      return exchange.respond('home' as never, { n: 1 } as never);
    },
    'GET',
  ],
];

beforeAll(async () => {
  loom = await createLoom({
    sources: {
      'pages/home.html': '<meta (takes n)><p id="a">${n}</p>',
      'pages/form.html':
        '<meta (takes form)><form (bind form) method="post"><input name="name"><select name="berth"></select></form>',
      'pages/error.html': '<meta (takes title)><h1>${title}</h1>',
      'partials/a-word.html': '${1}',
    },
    errorPage: 'error',
    secret,
    logger: quietLogger,
  });
  made = createChannels({ loom, broker: memoryBroker() });
  const byFetch = nodeListener(async (request) => {
    const { pathname } = new URL(request.url);
    if (pathname === '/fetch/channels') return channels().connect(request, { authorize: () => true });
    const [, use] = members[Number(pathname.split('/').at(-1))]!;
    return (await use((await loom.exchange(request)) as never)) as Response;
  });
  const byPair = async (req: IncomingMessage, res: ServerResponse) => {
    if (req.url!.startsWith('/pair/channels')) return channels().connect(req, res, { authorize: () => true });
    const [, use] = members[Number(new URL(req.url!, site).pathname.split('/').at(-1))]!;
    await use((await nodeExchange(loom, req, res)) as never);
    return undefined;
  };
  server = createServer((req, res) => (req.url!.startsWith('/fetch') ? byFetch(req, res) : void byPair(req, res)));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  site = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  await made.close();
  server.closeAllConnections();
  server.close();
});

/** An answer without what differs from one to the next. */
async function answered(path: string, method: string) {
  const response = await fetch(`${site}${path}`, {
    method,
    redirect: 'manual',
    headers: {
      accept: 'text/html',
      'sec-fetch-site': 'same-origin',
      referer: `${site}/from`,
      ...(method === 'POST' ? { 'content-type': 'application/x-www-form-urlencoded' } : {}),
    },
    body: method === 'POST' ? 'name=x' : null,
  });
  const text = await response.text();
  const headers = [...response.headers].filter(
    ([name]) => !/^(?:date|etag|keep-alive|connection|set-cookie|content-length|transfer-encoding)$/.test(name),
  );
  const cookies = response.headers.getSetCookie().map((cookie) => cookie.split('=')[0]);
  return [
    response.status,
    headers,
    cookies,
    text
      .replace(/(?:value|data-loom-[\w-]+|id)="[^"]*"/g, '')
      .replaceAll('/fetch/', '/x/')
      .replaceAll('/pair/', '/x/'),
  ];
}

test.each(members.map(([member, , method], index) => [member, index, method] as const))(
  '%s',
  async (_member, index, method) => {
    const fetched = await answered(`/fetch/${index}?name=T`, method);
    expect(await answered(`/pair/${index}?name=T`, method)).toEqual(fetched);
    expect(fetched[0]).not.toBe(500);
  },
);

describe('channels', () => {
  test.each(['/fetch', '/pair'])('connect, %s', async (way) => {
    const stop = new AbortController();
    const response = await fetch(`${site}${way}/channels?channel=a`, {
      signal: stop.signal,
      headers: { 'sec-fetch-site': 'same-origin' },
    });
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'text/event-stream; charset=utf-8']);
    await made.publish('a', put('a-word', {}).inside('a'));
    const reader = response.body!.getReader();
    let text = '';
    while (!text.includes('data-loom-put')) text += new TextDecoder().decode((await reader.read()).value);
    stop.abort();
    expect((await fetch(`${site}${way}/channels?channel=a`, { method: 'POST' })).status).toBe(405);
  });

  test('connect says what to write where it was given req alone', async () => {
    await expect(
      made.connect(
        { rawHeaders: [], headers: {}, method: 'GET', url: '/' } as never,
        { authorize: () => true } as never,
      ),
    ).rejects.toThrow('channels.connect(req, res');
  });
});
