/** Publishers, readers, processes and Redis are cut and started anew at random: at the end each reader shows what a fresh load shows. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, put, trustedHTML } from 'zip-loom';
import { type Broker, type Channels, createChannels, memoryBroker } from 'zip-loom/channels';
import { redisBroker } from 'zip-loom/redis';
import { openRedis, type RedisServer } from '../support/redis-server.ts';
import { runs } from '../support/runs.ts';

const sources = {
  'pages/board.html':
    '<html><body><ul (region north channel="north")></ul><ul (region south channel="south")></ul></body></html>',
};
/** The channels of the page, each of a region of its name. */
const names = ['north', 'south'] as const;
const count = Number(process.env['RUNS'] ?? runs(100, 2000));
const firstSeed = Number(process.env['SEED'] ?? 1);

const pause = (length: number) => new Promise((done) => setTimeout(done, length));

function randomly(seed: number) {
  let state = (seed * 2654435761) >>> 0;
  return (limit: number) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * limit);
  };
}

type Name = (typeof names)[number];

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
  readonly items: Record<Name, string[]> = { north: [], south: [] };
  private next = 0;
  readonly processes: Process[] = [];

  async start(at: number, broker: Broker): Promise<void> {
    const loom = await createLoom({ sources, logger: false, mode: 'production' });
    this.processes[at] = { loom, channels: createChannels({ loom, broker, backlog: 600 }) };
  }

  /** Something happens. What cannot be published now is published later: whoever publishes is told. */
  async happen(at: number, name: Name): Promise<void> {
    const item = `item-${this.next++}`;
    this.items[name].push(item);
    await this.publish(at, name, item).catch(() => void this.unpublished.push([name, item]));
  }

  async publishRest(at: number): Promise<void> {
    while (this.unpublished.length > 0) {
      const isDone = await this.publish(at, ...this.unpublished[0]!).then(
        () => true,
        () => false,
      );
      if (isDone) this.unpublished.shift();
      else await pause(20);
    }
  }

  private readonly unpublished: Array<[Name, string]> = [];

  private publish(at: number, name: Name, item: string): Promise<void> {
    return this.processes[at]!.channels.publish(name, put(trustedHTML(item)).atEndOf(name));
  }
}

/** A browser that looks at the boards, as the client does. */
class Reader {
  readonly shown: Record<Name, string[]> = { north: [], south: [] };
  private position = '';
  private leave: AbortController | undefined;
  /** Of what was asked for last, for each board. */
  private readonly versions: Record<Name, number> = { north: 0, south: 0 };
  /** The position of the last change. */
  private changed = '';
  private readonly site: Site;

  constructor(site: Site) {
    this.site = site;
  }

  /** Loads the page, or asks for some boards again: the position is that of before the data was read. */
  async load(at: number, wanted: readonly Name[] = names): Promise<void> {
    const mine = wanted.map((name) => ++this.versions[name]);
    const exchange = await this.site.processes[at]!.loom.exchange(new Request('http://harbour.test/'));
    await pause(0);
    const items = structuredClone(this.site.items);
    await pause(0);
    const text = await (await exchange.respond('board')).text();
    for (const [index, name] of wanted.entries())
      if (mine[index] === this.versions[name]) this.shown[name] = items[name];
    const position = /data-loom-position="([^"]*)"/.exec(text)![1]!;
    if (wanted === names && !this.isListening) this.position = position;
    // An answer that is older than a change does not count.
    if (isEarlier(position, this.changed)) await this.load(at);
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
    const query = names.map((name) => `channel=${name}&after=${this.position}`).join('&');
    const request = new Request(`http://harbour.test/channels?${query}`, { signal: leave.signal });
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
        const lines = text.slice(0, end);
        text = text.slice(end + 2);
        const [event, id, data] = ['event', 'id', 'data'].map((name) =>
          [...lines.matchAll(new RegExp(`^${name}: (.*)$`, 'gm'))].map(([, value]) => value).join('\n'),
        ) as [string, string, string];
        // One that was cut off in the middle of what has come.
        if (leave.signal.aborted) return;
        if (id !== '') this.position = id;
        if (event === 'missed') {
          await this.load(at, JSON.parse(data) as Name[]);
          continue;
        }
        if (data === '') continue;
        const [, name, item] = /^(\w+)\n.*(item-\d+)</s.exec(data) as unknown as [string, Name, string];
        this.shown[name] = [...new Set([...this.shown[name], item])];
        this.changed = id;
        // Between two events others have their turn, and may cut it off.
        await pause(0);
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
    if (what < 4) await site.happen(any(), names[random(2)]!);
    else if (what < 6) await reader.listen(any());
    else if (what === 6) reader.cut();
    else if (what === 7) void reader.load(any());
    else if (what === 8) await pause(random(3));
    else await chaos[random(chaos.length)]?.(random);
  }
  await site.publishRest(0);
  const isSame = ({ shown }: Reader) =>
    names.every((name) => shown[name].toSorted().join() === site.items[name].toSorted().join());
  for (const end = Date.now() + 20_000; !readers.every((one) => one.isListening && isSame(one)); await pause(2)) {
    for (const reader of readers) if (!reader.isListening) await reader.listen(any());
    if (Date.now() > end) {
      const shown = readers.map(({ shown }) => shown);
      throw new Error(`Seed ${seed}: ${JSON.stringify({ items: site.items, shown })}`);
    }
  }
  for (const reader of readers) reader.cut();
}

test(`${count} runs of one process, from seed ${firstSeed}`, async () => {
  for (let seed = firstSeed; seed < firstSeed + count; seed++) {
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
  expect(count).toBeGreaterThan(0);
}, 300_000);

describe('three processes', () => {
  let server: RedisServer;
  beforeAll(async () => {
    server = await openRedis();
  });
  afterAll(() => server?.close());

  const some = Math.ceil(count / 20);
  test(`${some} runs with Redis, from seed ${firstSeed}`, async () => {
    for (let seed = firstSeed; seed < firstSeed + some; seed++) {
      const site = new Site();
      const prefix = `run-${seed}`;
      const begin = async (at: number) => {
        const broker = redisBroker({ url: server.url, prefix, events: 300, logger: false });
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
        await site.happen(0, 'south');
        await server.start();
      };
      await run(seed, site, [restart, restart, outage], 40);
      for (const { channels } of site.processes) await channels.close();
    }
    expect(some).toBeGreaterThan(0);
  }, 300_000);
});
