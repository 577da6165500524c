/** Channels over plain HTTP: what is sent, what is missed, who may listen, and how connections end. */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, type LoomOptions, put, reload, remove, trustedHTML } from 'zip-loom';
import { type Broker, type Channels, type ChannelsOptions, createChannels, memoryBroker } from 'zip-loom/channels';
import { nodeListener } from 'zip-loom/node';
import { secret } from '../support/settings.ts';

const sources = {
  'partials/arrival-row.html': '<meta (takes boat)><tr><td>${boat}</td><td>${time("2026-06-12T14:05:00Z")}</td></tr>',
  'partials/late-row.html': '<meta (takes boat)><tr (await name = boat)><td>${name}</td></tr>',
  'partials/visitor-row.html': '<p>${context.user?.name}</p>',
  'partials/url-row.html': '<p>${context.url}</p>',
  'partials/form-row.html': '<form method="post"><button>Go</button></form>',
  'partials/styled-row.html': '<link (into head) rel="stylesheet" href="/row.css"><p (region row)>x</p>',
  'pages/board.html': '<html><body><table><tbody (region board channel="arrivals")></tbody></table></body></html>',
  'pages/plain.html': '<html><body><p (region only)>x</p></body></html>',
};

let opened: Channels | undefined;
afterEach(async () => {
  await opened?.close();
  opened = undefined;
});

async function open(options: Partial<ChannelsOptions> = {}, loomOptions: LoomOptions = {}) {
  const loom = await createLoom({ sources, secret, mode: 'production', logger: false, ...loomOptions });
  const broker: Broker = options.broker ?? memoryBroker();
  const channels = createChannels({ loom, broker, ...options });
  opened = channels;
  const connect = async (
    query = '?channel=arrivals',
    headers: Record<string, string> = {},
    allowed = (_channel: string) => true,
  ) => {
    const leave = new AbortController();
    const request = new Request(`http://harbour.test/channels${query}`, { headers, signal: leave.signal });
    const response = await channels.connect(request, { authorize: (channel) => allowed(channel) });
    return { response, leave: () => leave.abort(), ...reading(response) };
  };
  return { loom, broker, channels, connect };
}

interface Event {
  event: string;
  id: string;
  /** The first line of an update. */
  channel: string;
  data: string;
}

/** Reads events as a browser does (HTML §9.2.6). */
function reading(response: Response) {
  const reader = response.body!.getReader();
  const decoder = new TextDecoder();
  let text = '';
  let hasEnded = false;
  const read = async (): Promise<string> => {
    const { done, value } = await reader.read();
    hasEnded = done;
    return decoder.decode(value);
  };
  const next = async (): Promise<Event> => {
    for (;;) {
      const end = text.indexOf('\n\n');
      if (end === -1) {
        if (hasEnded) throw new Error('The connection has ended.');
        text += await read();
        continue;
      }
      const lines = text.slice(0, end).split('\n');
      text = text.slice(end + 2);
      const field = (name: string) =>
        lines.filter((line) => line.startsWith(`${name}: `)).map((line) => line.slice(name.length + 2));
      const [event = '', id = '', data] = [field('event')[0], field('id')[0], field('data')];
      if (data.length === 0) continue;
      const channel = event === 'update' ? data.shift()! : '';
      return { event, id, channel, data: data.join('\n') };
    }
  };
  const rest = async () => {
    while (!hasEnded) text += await read();
    return text;
  };
  return { next, rest };
}

const row = (boat: string) => put('arrival-row', { boat }).atStartOf('board');
const bare = (data: string) => data.replace(/ data-loom-mark="[\w-]{8}"/, '').trim();

describe('what is published', () => {
  test.each([
    [
      row('Tern & Co'),
      '<template data-loom-put="at-start-of board"><tr><td>Tern &amp; Co</td><td>15:05</td></tr></template>',
    ],
    [
      put('late-row', { boat: Promise.resolve('late') }).atEndOf('board'),
      '<template data-loom-put="at-end-of board"><tr><td>late</td></tr></template>',
    ],
    [put(trustedHTML('a\r\nb\rc\nd')).inside('board'), '<template data-loom-put="inside board">a\nb\nc\nd</template>'],
    [remove('row-7'), '<template data-loom-remove="row-7"></template>'],
    [reload('board'), '<template data-loom-reload="board"></template>'],
    [
      [remove('a'), remove('b')],
      '<template data-loom-remove="a"></template>\n<template data-loom-remove="b"></template>',
    ],
  ])('%#', async (changes, expected) => {
    const { channels, connect } = await open();
    const { next, response } = await connect();
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'text/event-stream; charset=utf-8']);
    await channels.publish('arrivals', changes, { locale: 'en-GB', timeZone: 'Europe/London' });
    const { event, id, channel, data } = await next();
    expect([event, channel, /^\d+-1$/.test(id), bare(data)]).toEqual(['update', 'arrivals', true, expected]);
  });

  test('styles and regions of a template go with it', async () => {
    const { channels, connect } = await open();
    const { next } = await connect();
    await channels.publish('arrivals', put('styled-row').atEndOf('board'));
    const { data } = await next();
    expect(data).toContain('<template data-loom-head><link rel="stylesheet" href="/row.css"></template>');
    const [, mark] = /data-loom-put="[^"]*" data-loom-mark="([\w-]{8})"/.exec(data)!;
    expect(data).toContain(`data-loom-region="row" data-loom-mark="${mark}"`);
  });

  test.each([
    ['visitor-row', 'reads context.user'],
    ['url-row', 'reads context.url'],
    ['form-row', 'holds a form that posts'],
  ])('%s is not for everybody', async (name, words) => {
    const { channels } = await open();
    const error = await channels
      .publish('arrivals', put(name as never).inside('board'))
      .catch((one: { diagnostic?: object }) => `${one} ${JSON.stringify(one)}`);
    expect(String(error)).toContain(words);
    expect(String(error)).toContain('reload');
    expect(String(error)).toContain(name);
  });

  test('one rendering for all who listen, in order, and only to those of the channel', async () => {
    let rendered = 0;
    const { channels, connect } = await open();
    const readers = await Promise.all(Array.from({ length: 20 }, () => connect()));
    const other = await connect('?channel=stays');
    const boat = { toString: () => `boat ${++rendered}` };
    for (let count = 0; count < 5; count++)
      await channels.publish('arrivals', put('arrival-row', { boat: String(boat) }).inside('board'));
    await channels.publish('stays', remove('x'));
    for (const { next } of readers)
      for (let count = 1; count <= 5; count++) expect((await next()).data).toContain(`boat ${count}<`);
    expect(bare((await other.next()).data)).toContain('data-loom-remove');
    expect(rendered).toBe(5);
    expect(channels.stats()).toMatchObject({ connections: 21, published: 6, channels: { arrivals: 20, stays: 1 } });
  });
});

describe('never a silent gap', () => {
  test('the page carries the position of before its data was read', async () => {
    const { loom, channels, connect } = await open();
    await channels.publish('arrivals', row('before'));
    const exchange = await loom.exchange(new Request('http://harbour.test/'));
    await channels.publish('arrivals', row('between'));
    const text = await (await exchange.respond('board')).text();
    const [, url, position] = /data-loom-channels="([^"]*)" data-loom-position="([^"]*)"/.exec(text)!;
    expect(url).toBe('/channels');
    expect(text).toContain('data-loom-channel="arrivals"');
    const { next } = await connect(`?channel=arrivals&after=${position}`);
    await channels.publish('arrivals', row('after'));
    expect([(await next()).data, (await next()).data]).toEqual([
      expect.stringContaining('between'),
      expect.stringContaining('after'),
    ]);
  });

  test('answers in place carry positions, and a first visit does', async () => {
    const { loom } = await open();
    const headers = { 'loom-region': 'board', 'loom-page': 'board' };
    for (const init of [{}, { headers }]) {
      const text = await (await loom.respond(new Request('http://harbour.test/', init), 'board')).text();
      expect(text).toMatch(/data-loom-position="\d+-0"/);
    }
  });

  test('who comes back gets what was missed; the last id counts more than where it began', async () => {
    const { channels, connect } = await open();
    const first = await connect();
    for (const boat of ['a', 'b', 'c']) await channels.publish('arrivals', row(boat));
    const { id } = await first.next();
    const again = await connect('?channel=arrivals&after=0-0', { 'last-event-id': id });
    expect([(await again.next()).data, (await again.next()).data]).toEqual([
      expect.stringContaining('>b<'),
      expect.stringContaining('>c<'),
    ]);
  });

  test.each([
    ['it is no longer kept', '', { events: 2 }],
    ['it is of another process', '12345-7', {}],
    ['it is of a later process', '999999999999999-1', {}],
    ['it is no position', 'x', {}],
  ])('where %s, the regions are to be asked for', async (_name, after, options) => {
    const { channels, connect, broker } = await open({ broker: memoryBroker(options) });
    const position = after || broker.position();
    for (const boat of ['a', 'b', 'c']) await channels.publish('arrivals', row(boat));
    const { next } = await connect(`?channel=arrivals&after=${position}`);
    expect(await next()).toMatchObject({ event: 'missed', data: '["arrivals"]' });
    await channels.publish('arrivals', row('d'));
    expect(await next()).toMatchObject({ event: 'update', data: expect.stringContaining('>d<') });
  });

  test('what is lost of one channel is told before what came on another, and again to whoever is cut off between them', async () => {
    const { channels, connect, broker } = await open({ broker: memoryBroker({ events: 2 }) });
    const start = broker.position();
    for (const boat of ['a', 'b', 'c']) await channels.publish('stays', row(boat));
    await channels.publish('arrivals', row('d'));
    const first = await connect(`?channel=arrivals&after=${start}&channel=stays&after=${start}`);
    // No id: a browser that is cut off now says that it is where it was.
    expect(await first.next()).toMatchObject({ event: 'missed', data: '["stays"]', id: '' });
    expect(await first.next()).toMatchObject({ event: 'update', channel: 'arrivals' });
    await channels.close();
    expect(await first.rest()).toContain(`id: ${broker.position()}\n\n`);
  });

  test('a slow reader holds nobody up: what waits becomes one word', async () => {
    const { channels, connect } = await open({ backlog: 2000 });
    const slow = await connect();
    const quick = await connect();
    for (let count = 0; count < 100; count++) {
      await channels.publish('arrivals', row(`boat ${count}`));
      expect((await quick.next()).data).toContain(`boat ${count}<`);
    }
    const events: string[] = [];
    await channels.publish('arrivals', row('last'));
    for (let { event, data } = await slow.next(); ; { event, data } = await slow.next()) {
      events.push(event);
      if (data.includes('>last<')) break;
    }
    expect(events).toContain('missed');
    expect(events.length).toBeLessThan(40);
  });
});

describe('who may listen', () => {
  test('nobody from another site, and nobody to what is not allowed', async () => {
    const { connect, channels } = await open();
    expect((await connect('?channel=arrivals', { 'sec-fetch-site': 'cross-site' })).response.status).toBe(403);
    expect((await connect('?channel=arrivals', { origin: 'http://elsewhere.test' })).response.status).toBe(403);
    expect((await connect('?channel=secret', {}, () => false)).response.status).toBe(403);
    expect((await connect('')).response.status).toBe(403);
    await connect('?channel=arrivals&channel=secret', {}, (channel) => channel === 'arrivals');
    expect(channels.stats().channels).toEqual({ arrivals: 1 });
    const post = new Request('http://harbour.test/channels?channel=arrivals', { method: 'POST' });
    expect((await channels.connect(post, { authorize: () => true })).status).toBe(405);
  });

  test('not too many, of a process and of a visitor', async () => {
    const { connect, channels, loom } = await open({ maximumConnections: 3, maximumPerVisitor: 2, retryAfter: 7000 });
    const ada = { cookie: await sessionOf(loom) };
    const first = await connect('?channel=arrivals', ada);
    await connect('?channel=arrivals', ada);
    const { response } = await connect('?channel=arrivals', ada);
    expect([response.status, response.headers.get('retry-after')]).toEqual([503, '7']);
    await connect();
    expect((await connect()).response.status).toBe(503);
    first.leave();
    expect((await connect('?channel=arrivals', ada)).response.status).toBe(200);
    expect(channels.stats()).toMatchObject({ connections: 3, refused: 2 });
  });

  test('by what the server knows: no cookie that it has not made, and no address that nobody vouches for', async () => {
    const { loom, channels } = await open({ maximumPerVisitor: 2 });
    const session = await sessionOf(loom);
    const server = createServer(nodeListener((request) => channels.connect(request, { authorize: () => true })));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const ends = new AbortController();
    const statuses = async (count: number, headers: (at: number) => Record<string, string>) => {
      const all: number[] = [];
      for (let at = 0; at < count; at++) {
        const url = `http://127.0.0.1:${port}/channels?channel=arrivals`;
        all.push((await fetch(url, { headers: headers(at), signal: ends.signal })).status);
      }
      return all;
    };
    try {
      const forged = (at: number) => ({ cookie: `loom=${session.slice(5, -2)}${at}x` });
      expect(await statuses(4, forged)).toEqual([200, 200, 503, 503]);
      expect(
        await statuses(2, (at) => ({ 'x-forwarded-for': `192.0.2.${at}`, forwarded: `for=192.0.2.${at}` })),
      ).toEqual([503, 503]);
      expect(await statuses(3, () => ({ cookie: session }))).toEqual([200, 200, 503]);
    } finally {
      ends.abort();
      await channels.close();
      server.closeAllConnections();
      server.close();
    }
  });
});

/** The cookie of a session that the loom has made. */
async function sessionOf(loom: Loom): Promise<string> {
  const exchange = await loom.exchange(new Request('http://harbour.test/'));
  exchange.rotateSession();
  return exchange.redirect('/').headers.getSetCookie()[0]!.split(';')[0]!;
}

describe('how connections end', () => {
  test('with a word when to come back, each at another time', async () => {
    const { connect, channels } = await open();
    const some = await Promise.all(Array.from({ length: 5 }, () => connect()));
    await channels.close();
    const retries = await Promise.all(some.map(async ({ rest }) => /retry: (\d+)\n\n$/.exec(await rest())?.[1]));
    expect(retries.every((retry) => Number(retry) >= 1000 && Number(retry) <= 10_000)).toBe(true);
    expect(new Set(retries).size).toBeGreaterThan(2);
    expect(channels.stats().connections).toBe(0);
    expect((await connect()).response.status).toBe(503);
  });

  test('each browser is told at the start when to come back after a cut, and not all the same', async () => {
    const { connect, channels } = await open();
    const some = await Promise.all(Array.from({ length: 5 }, () => connect()));
    await channels.close();
    const retries = await Promise.all(
      some.map(async ({ rest }) => Number(/^retry: (\d+)\n\n/.exec(await rest())?.[1])),
    );
    expect(retries.every((retry) => retry >= 1000 && retry <= 4000)).toBe(true);
    expect(new Set(retries).size).toBeGreaterThan(2);
  });

  test('a heartbeat where nothing happens', async () => {
    const { connect } = await open({ heartbeat: 20 });
    const { rest } = await connect();
    setTimeout(() => void opened?.close(), 200);
    // The first word, and one for every 20 milliseconds.
    expect((await rest()).match(/^: $/gm)!.length).toBeGreaterThan(2);
  });
});

describe('mistakes', () => {
  test.each([
    [() => createChannels({} as never), 'invalid-call'],
    [() => createChannels({ loom: {}, broker: memoryBroker() } as never), 'invalid-option'],
    [() => createChannels({ brokers: memoryBroker() } as never), 'unknown-option'],
  ])('%#', (call, code) => {
    expect(call).toThrow(expect.objectContaining({ code }));
  });

  test('a broker that cannot be reached: whoever publishes is told', async () => {
    const broker = { ...memoryBroker(), publish: () => Promise.reject(new Error('the line is cut')) };
    const { channels } = await open({ broker });
    await expect(channels.publish('arrivals', remove('a'))).rejects.toMatchObject({
      code: 'undelivered-publication',
      message: expect.stringContaining('“arrivals” could not be handed on (the line is cut)'),
      cause: expect.objectContaining({ message: 'the line is cut' }),
    });
    expect(channels.stats().published).toBe(0);
  });

  test.each([
    ['two words', remove('a'), 'invalid-channel'],
    ['', remove('a'), 'invalid-channel'],
    ['arrivals', 'text', 'invalid-publication'],
    ['arrivals', [put('arrival-row', { boat: 'x' })], 'invalid-publication'],
  ])('publish(%j, …)', async (channel, change, code) => {
    const { channels } = await open();
    await expect(channels.publish(channel, change as never)).rejects.toMatchObject({ code });
  });
});
