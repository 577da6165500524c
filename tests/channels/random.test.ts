/** Publishers, readers, processes and Redis are cut and started anew at random: at the end each reader shows what a fresh load shows. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, put, trustedHTML } from 'zip-loom';
import { type Broker, type Channels, createChannels, memoryBroker } from 'zip-loom/channels';
import { redisBroker } from 'zip-loom/redis';
import { openRedis, type RedisServer } from '../support/redis-server.ts';

const sources = {
  'pages/board.html':
    '<meta (takes items)><html><body><ul (region board channel="board")>${items.join(" ")}</ul></body></html>',
};
const runs = Number(process.env['RUNS'] ?? 500);
const firstSeed = Number(process.env['SEED'] ?? 1);

const pause = (length: number) => new Promise((done) => setTimeout(done, length));

function randomly(seed: number) {
  let state = (seed * 2654435761) >>> 0;
  return (limit: number) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * limit);
  };
}

/** A process of the site: its own loom, its own channels. */
interface Process {
  loom: Loom;
  channels: Channels;
}

/** Whether a position is before another; of processes that were started later they are later. */
function isEarlier(one: string, other: string): boolean {
  const [[a = 0, b = 0], [c = 0, d = 0]] = [one, other].map((text) => text.split('-').map(Number)) as [
    number[],
    number[],
  ];
  return a < c || (a === c && b < d);
}

/** What all processes share. */
class Site {
  items: string[] = [];
  private next = 0;
  readonly processes: Process[] = [];

  async start(at: number, broker: Broker): Promise<void> {
    const loom = await createLoom({ sources, logger: false, mode: 'production' });
    this.processes[at] = { loom, channels: createChannels({ loom, broker, backlog: 600 }) };
  }

  /** Something happens. What cannot be published now is published later: whoever publishes is told. */
  async happen(at: number): Promise<void> {
    const item = `item-${this.next++}`;
    this.items.push(item);
    await this.publish(at, item).catch(() => void this.unpublished.push(item));
  }

  async publishRest(at: number): Promise<void> {
    while (this.unpublished.length > 0) {
      const isDone = await this.publish(at, this.unpublished[0]!).then(
        () => true,
        () => false,
      );
      if (isDone) this.unpublished.shift();
      else await pause(20);
    }
  }

  private readonly unpublished: string[] = [];

  private publish(at: number, item: string): Promise<void> {
    return this.processes[at]!.channels.publish('board', put(trustedHTML(item)).atEndOf('board'));
  }
}

/** A browser that looks at the board, as the client does. */
class Reader {
  shown: string[] = [];
  private position = '';
  private leave: AbortController | undefined;
  private version = 0;
  /** The position of the last change. */
  private changed = '';
  private readonly site: Site;

  constructor(site: Site) {
    this.site = site;
  }

  /** Loads the page, or asks for the region again: the position is that of before the data was read. */
  async load(at: number): Promise<void> {
    const mine = ++this.version;
    const exchange = await this.site.processes[at]!.loom.exchange(new Request('http://harbour.test/'));
    await pause(0);
    const items = [...this.site.items];
    await pause(0);
    const text = await (await exchange.respond('board', { items })).text();
    if (mine !== this.version) return;
    this.shown = items;
    this.position = /data-loom-position="([^"]*)"/.exec(text)![1]!;
    // An answer that is older than a change does not count.
    if (isEarlier(this.position, this.changed)) await this.load(at);
  }

  cut(): void {
    this.leave?.abort();
    this.leave = undefined;
  }

  get isListening(): boolean {
    return this.leave !== undefined;
  }

  async listen(at: number): Promise<void> {
    this.cut();
    const leave = new AbortController();
    this.leave = leave;
    const request = new Request(`http://harbour.test/channels?channel=board&after=${this.position}`, {
      signal: leave.signal,
    });
    const response = await this.site.processes[at]!.channels.connect(request, { authorize: () => true });
    if (response.status !== 200) {
      if (this.leave === leave) this.leave = undefined;
      return;
    }
    void this.read(response, leave, at).finally(() => {
      if (this.leave === leave) this.leave = undefined;
    });
  }

  private async read(response: Response, leave: AbortController, at: number): Promise<void> {
    const decoder = new TextDecoder();
    let text = '';
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
      text += decoder.decode(chunk, { stream: true });
      for (let end = text.indexOf('\n\n'); end !== -1; end = text.indexOf('\n\n')) {
        const [event, id, data] = ['event', 'id', 'data'].map(
          (name) => new RegExp(`^${name}: (.*)$`, 'm').exec(text.slice(0, end))?.[1],
        );
        text = text.slice(end + 2);
        if (leave.signal.aborted) return;
        if (id === undefined) continue;
        if (event === 'missed') await this.load(at);
        else {
          this.shown = [...new Set([...this.shown, /(item-\d+)</.exec(data!)![1]!])];
          this.changed = id;
        }
        this.position = id;
      }
    }
  }
}

/** One run. @param chaos what else may happen */
async function run(
  seed: number,
  site: Site,
  chaos: Array<(random: (limit: number) => number) => Promise<void>>,
  steps: number,
) {
  const random = randomly(seed);
  const any = () => random(site.processes.length);
  const readers = Array.from({ length: 4 }, () => new Reader(site));
  for (const reader of readers) await reader.load(any());
  for (let step = 0; step < steps; step++) {
    const reader = readers[random(readers.length)]!;
    const what = random(10);
    if (what < 4) await site.happen(any());
    else if (what < 6) await reader.listen(any());
    else if (what === 6) reader.cut();
    else if (what === 7) void reader.load(any());
    else if (what === 8) await pause(random(3));
    else await chaos[random(chaos.length)]?.(random);
  }
  await site.publishRest(0);
  const isSame = (reader: Reader) => [...reader.shown].sort().join() === [...site.items].sort().join();
  for (const end = Date.now() + 20_000; !readers.every((one) => one.isListening && isSame(one)); await pause(2)) {
    for (const reader of readers) if (!reader.isListening) await reader.listen(any());
    if (Date.now() > end) {
      const shown = readers.map(({ shown }) => shown.join());
      throw new Error(`Seed ${seed}: ${JSON.stringify({ items: site.items.join(), shown })}`);
    }
  }
  for (const reader of readers) reader.cut();
}

test(`${runs} runs of one process, from seed ${firstSeed}`, async () => {
  for (let seed = firstSeed; seed < firstSeed + runs; seed++) {
    const site = new Site();
    const begin = async () => {
      await site.processes[0]?.channels.close();
      await pause(1);
      await site.start(0, memoryBroker({ events: 6 }));
    };
    await begin();
    await run(seed, site, [begin, async () => {}, async () => {}], 40);
    await site.processes[0]!.channels.close();
  }
  expect(runs).toBeGreaterThan(0);
}, 300_000);

describe('three processes', () => {
  let server: RedisServer;
  beforeAll(async () => {
    server = await openRedis();
  });
  afterAll(() => server?.close());

  const some = Math.ceil(runs / 20);
  test(`${some} runs with Redis, from seed ${firstSeed}`, async () => {
    for (let seed = firstSeed; seed < firstSeed + some; seed++) {
      const site = new Site();
      const prefix = `run-${seed}`;
      const begin = async (at: number) => {
        const broker = redisBroker({ url: server.url, prefix, events: 300, logger: { warn: () => {} } });
        await site.start(at, broker);
        while (broker.position() === '0-0') await pause(5);
      };
      for (const at of [0, 1, 2]) await begin(at);
      const restart = async (random: (limit: number) => number) => {
        const at = random(3);
        await site.processes[at]!.channels.close();
        await begin(at);
      };
      const outage = async () => {
        await server.kill();
        await site.happen(0);
        await server.start();
      };
      await run(seed, site, [restart, restart, outage], 40);
      for (const { channels } of site.processes) await channels.close();
    }
    expect(some).toBeGreaterThan(0);
  }, 300_000);
});
