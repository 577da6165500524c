/** What every broker promises, of each; and what happens to Redis. */
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { type Broker, type BrokerEvent, type BrokerOptions, memoryBroker } from 'zip-loom/channels';
import { redisBroker } from 'zip-loom/redis';
import { openRedis, type RedisServer } from '../support/redis-server.ts';

const opened: Broker[] = [];
afterEach(async () => {
  for (const one of opened.splice(0)) await one.close();
});

interface Opened {
  broker: Broker;
  told: BrokerEvent[];
  gaps: string[];
}

const listening = (broker: Broker): Opened => {
  const made: Opened = { broker, told: [], gaps: [] };
  broker.listen(
    (event) => void made.told.push(event),
    (position) => void made.gaps.push(position),
  );
  opened.push(broker);
  return made;
};

const comes = async (isSo: () => boolean) => {
  for (const end = Date.now() + 15_000; !isSo(); await new Promise((wait) => setTimeout(wait, 5)))
    if (Date.now() > end) throw new Error(`This never came true: ${isSo}`);
};

const logged: string[] = [];
const logger = {
  error: () => undefined,
  warn: (_details: object, message: string) => void logged.push(message),
  info: (_details: object, message: string) => void logged.push(message),
};

let server: RedisServer;
let prefixes = 0;
beforeAll(async () => {
  server = await openRedis();
});
afterAll(() => server?.close());

const openings: Array<[string, (limits?: BrokerOptions) => Promise<Opened>]> = [
  ['memory', async (limits) => listening(memoryBroker(limits))],
  [
    'redis',
    async (limits) => {
      const made = listening(redisBroker({ url: server.url, prefix: `test-${prefixes++}`, logger, ...limits }));
      await comes(() => made.broker.position() !== '0-0');
      return made;
    },
  ],
];

describe.each(openings)('%s', (_name, open) => {
  test('each event is told once, in order, with a position that grows', async () => {
    const { broker, told } = await open();
    const ids: string[] = [];
    for (let count = 0; count < 50; count++)
      ids.push(await broker.publish(`channel-${count % 3}`, `text ${count}\n<b>`));
    await comes(() => told.length === 50);
    expect(told.map(({ id }) => id)).toEqual(ids);
    expect(told.map(({ channel, text }) => `${channel} ${text}`)).toEqual(
      ids.map((_id, count) => `channel-${count % 3} text ${count}\n<b>`),
    );
    expect(broker.position()).toBe(ids.at(-1));
  });

  test('what was published since a position is there, of the channels that are asked for', async () => {
    const { broker, told } = await open();
    const before = broker.position();
    const ids: string[] = [];
    for (const text of ['a', 'b', 'c', 'd']) ids.push(await broker.publish(text === 'c' ? 'other' : 'mine', text));
    await comes(() => told.length === 4);
    const texts = async (...channels: Array<[string, string]>) => {
      const { events, lost } = await broker.since(new Map(channels));
      return [events.map(({ text }) => text).join(''), lost];
    };
    expect(await texts(['mine', before])).toEqual(['abd', []]);
    expect(await texts(['mine', ids[0]!])).toEqual(['bd', []]);
    expect(await texts(['mine', ids[1]!], ['other', before])).toEqual(['cd', []]);
    expect(await texts(['mine', ids[3]!])).toEqual(['', []]);
    expect(await texts(['quiet', before])).toEqual(['', []]);
  });

  test.each<[string, BrokerOptions]>([
    ['too much', { events: 10 }],
    ['too old', { maxAge: 1 }],
  ])('what is %s is not kept, and that is said', async (_name, limits) => {
    const { broker, told } = await open(limits);
    const before = broker.position();
    for (let count = 0; count < 500; count++) await broker.publish('mine', `text ${count}`);
    await comes(() => told.length === 500);
    await new Promise((wait) => setTimeout(wait, 5));
    const { events, lost } = await broker.since(new Map([['mine', before]]));
    expect([events, lost]).toEqual([[], ['mine']]);
    for (const position of ['', 'x', '1-1', '999999999999999-0'])
      expect((await broker.since(new Map([['mine', position]]))).lost).toEqual(['mine']);
  });
});

describe('redis', () => {
  const open = (url: string, prefix: string) => listening(redisBroker({ url, prefix, logger }));

  test('what is published at once waits for the connection, and so does who asks what was missed', async () => {
    const { broker } = open(server.url, `test-${prefixes++}`);
    const replay = broker.since(new Map([['mine', broker.position()]]));
    expect(await broker.publish('mine', 'first')).toMatch(/^\d+-\d+$/);
    // Nobody knows what there was before.
    expect(await replay).toMatchObject({ lost: ['mine'], position: expect.stringMatching(/^[1-9]\d+-\d+$/) });
  });

  test('several processes hear each other', async () => {
    const prefix = `test-${prefixes++}`;
    const all = [1, 2, 3].map(() => open(server.url, prefix));
    for (const { broker } of all) await comes(() => broker.position() !== '0-0');
    for (const [at, { broker }] of all.entries()) await broker.publish('mine', `from ${at}`);
    for (const { told } of all) {
      await comes(() => told.length === 3);
      expect(told.map(({ text }) => text)).toEqual(['from 0', 'from 1', 'from 2']);
    }
  });

  test('where it is killed, publications are errors, and everything goes on when it is back', async () => {
    const own = await openRedis();
    const { broker, told, gaps } = open(own.url, 'mine');
    await comes(() => broker.position() !== '0-0');
    await broker.publish('mine', 'before');
    await comes(() => told.length === 1);
    logged.length = 0;
    await own.kill();
    await expect(broker.publish('mine', 'lost')).rejects.toThrow();
    await comes(() => logged.length > 0);
    expect(logged).toEqual(['Redis cannot be reached: channels wait for it.']);
    await own.start();
    for (;;) {
      const isDone = await broker.publish('mine', 'after').then(
        () => true,
        () => false,
      );
      if (isDone) break;
      await new Promise((wait) => setTimeout(wait, 50));
    }
    await comes(() => told.length === 2);
    expect([told.map(({ text }) => text), gaps]).toEqual([['before', 'after'], []]);
    expect(logged).toContain('Redis can be reached again.');
    await broker.close();
    await own.close();
  }, 30_000);

  test('where it comes back with less than it had, that is told, and old positions are worth nothing', async () => {
    const own = await openRedis({ isKept: false });
    const { broker, told, gaps } = open(own.url, 'mine');
    await comes(() => broker.position() !== '0-0');
    const before = await broker.publish('mine', 'before');
    await comes(() => told.length === 1);
    await own.kill();
    await own.start();
    await comes(() => gaps.length === 1);
    expect((await broker.since(new Map([['mine', before]]))).lost).toEqual(['mine']);
    await broker.publish('mine', 'after');
    await comes(() => told.length === 2);
    await broker.close();
    await own.close();
  }, 30_000);

  test('one that is not there at the start is waited for', async () => {
    const own = await openRedis();
    await own.kill();
    const { broker, told } = open(own.url, 'mine');
    await expect(broker.publish('mine', 'lost')).rejects.toThrow();
    expect(broker.position()).toBe('0-0');
    await own.start();
    await comes(() => broker.position() !== '0-0');
    await broker.publish('mine', 'first');
    await comes(() => told.length === 1);
    await broker.close();
    await own.close();
  }, 30_000);
});
