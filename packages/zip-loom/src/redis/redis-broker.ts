/**
 * A broker for many processes. All events are in one stream of Redis (XADD, XREAD): its ids are their positions. Each process reads the
 * stream to its end and hands on what its own readers listen to.
 */
import { createClient } from 'redis';
import type { Broker, BrokerEvent, BrokerOptions, Replay } from '../channels/index.ts';
import { assertOptions, numberFrom, type OptionTable, someText, wholeNumberFrom } from '../diagnostics/index.ts';
import { type Logger, loggerKind, loggerOf } from '../loom/index.ts';
import { comparePositions } from '../protocol/index.ts';

/** Which Redis, and how much is kept there. */
export interface RedisBrokerOptions extends BrokerOptions {
  /** Where Redis is, such as `redis://localhost:6379`. */
  url: string;
  /** What the keys begin with. Default: `zip-loom`. */
  prefix?: string;
  /** Told when Redis cannot be reached, and when it can again. Default: the console. */
  logger?: Logger | false;
}

const table: OptionTable<RedisBrokerOptions> = {
  events: wholeNumberFrom(1),
  maxAge: numberFrom(1),
  url: someText,
  prefix: someText,
  logger: loggerKind,
};

/** Milliseconds that a read waits for an event, and before a lost connection is tried again, at most. */
const [longestRead, longestWait] = [5000, 2000];

/** After so many publications, events that are too old are looked for. */
const trimEvery = 100;

/** Events that are read at once. */
const batch = 500;

const nothing = '0-0';

interface Message {
  id: string;
  message: Record<string, string>;
}

/**
 * A broker for many processes.
 * @throws {LoomError} for options that are none
 * @example createChannels({ loom, broker: redisBroker({ url: 'redis://localhost:6379' }) })
 */
export function redisBroker(options: RedisBrokerOptions): Broker {
  assertOptions('redisBroker', options, table);
  const { url, prefix = 'zip-loom', events = 10_000, maxAge = 300_000 } = options;
  const logger = loggerOf(options);
  const [stream, origin] = [`${prefix}:events`, `${prefix}:beginning`];
  const socket = { reconnectStrategy: (tries: number) => Math.min(longestWait, 50 * 2 ** tries) };
  // What cannot be done now is an error now: whoever publishes has to know.
  const client = createClient({ url, socket, disableOfflineQueue: true });
  const reader = client.duplicate();
  let position = nothing;
  let isClosed = false;
  let published = 0;
  let isReachable = true;
  let hasBegun = false;
  let begun = () => {};
  /** Resolves when it is known where the stream is. */
  const beginning = new Promise<void>((resolve) => {
    begun = resolve;
  });
  let listener: (event: BrokerEvent) => void = () => {};
  let onGap: (position: string) => void = () => {};

  for (const one of [client, reader])
    one.on('error', (err: unknown) => {
      if (isReachable && !isClosed) logger.warn({ err }, 'Redis cannot be reached: channels wait for it.');
      isReachable = false;
    });
  client.connect().catch(() => {});
  // Whoever publishes at the very start waits for the connection, or for the word that there is none.
  const tried = new Promise<void>((resolve) => {
    client.once('ready', resolve);
    client.once('error', () => resolve());
  });
  const reading = read();

  return {
    position: () => position,
    async publish(channel, text) {
      await tried;
      const TRIM = { strategy: 'MAXLEN', strategyModifier: '~', threshold: events } as const;
      const id = String(await client.xAdd(stream, '*', { channel, text }, { TRIM }));
      if (published++ % trimEvery === 0) forget(id);
      return id;
    },
    listen(given, gap) {
      [listener, onGap] = [given, gap];
    },
    since,
    async close() {
      if (isClosed) return;
      isClosed = true;
      begun();
      for (const one of [client, reader]) one.destroy();
      await reading;
    },
  };

  /** Lets go of events that are too old. An id begins with the milliseconds of Redis’s clock. */
  function forget(id: string): void {
    const oldest = Number(id.split('-')[0]) - maxAge;
    // The event is published: where this fails, the next ones try again.
    client.xTrim(stream, 'MINID', oldest, { strategyModifier: '~' }).catch(() => {});
  }

  /** Reads the stream as long as the broker is open. */
  async function read(): Promise<void> {
    // It tries by itself until there is a connection.
    await reader.connect().catch(() => {});
    while (!isClosed) {
      try {
        if (!hasBegun || !isReachable) await begin();
        const found = (await reader.xRead(
          { key: stream, id: position },
          { BLOCK: longestRead, COUNT: batch },
        )) as ReadonlyArray<{ messages: Message[] }> | null;
        for (const message of found?.[0]?.messages ?? []) {
          position = message.id;
          listener(eventOf(message));
        }
      } catch {
        isReachable = false;
        if (!isClosed) await pause(100);
      }
    }
  }

  /** Finds out where the stream is, when there is a connection. Events that were lost are told. */
  async function begin(): Promise<void> {
    // Readers who are told of a gap ask at once: the other connection has to be there too.
    while (!client.isReady && !isClosed) await pause(20);
    const last = await lastOfStream();
    const now = `${await milliseconds()}-0`;
    const isBack = comparePositions(last, position) < 0;
    // It was started anew with less than it had: what was between is lost.
    if (isBack) await reader.set(origin, now);
    else await reader.set(origin, now, { condition: 'NX' });
    if (!hasBegun || isBack) position = comparePositions(last, nothing) > 0 && !isBack ? last : now;
    if (isBack) onGap(position);
    if (!isReachable) logger.info?.({}, 'Redis can be reached again.');
    hasBegun = isReachable = true;
    begun();
  }

  async function milliseconds(): Promise<number> {
    const [seconds, micros] = (await reader.sendCommand(['TIME'])) as unknown as [string, string];
    return Number(seconds) * 1000 + Math.floor(Number(micros) / 1000);
  }

  async function lastOfStream(): Promise<string> {
    if ((await reader.exists(stream)) === 0) return nothing;
    return String((await reader.xInfoStream(stream))['last-generated-id']);
  }

  /** What is later than this is all there. */
  async function oldestOfStream(): Promise<string> {
    if ((await client.exists(stream)) === 0) return nothing;
    const info = await client.xInfoStream(stream);
    const hasAll = Number(info['entries-added']) === Number(info.length);
    return hasAll ? nothing : String(info['first-entry']?.id ?? info['last-generated-id']);
  }

  async function since(wanted: ReadonlyMap<string, string>): Promise<Replay> {
    // What is published until then is not heard here: it has to be in what is asked for again.
    await beginning;
    const until = position;
    const first = String((await client.get(origin)) ?? '');
    const oldest = await oldestOfStream();
    const isKnown = (given: string) =>
      first !== '' &&
      [first, oldest].every((one) => comparePositions(given, one) >= 0) &&
      comparePositions(given, until) <= 0;
    const lost = [...wanted].filter(([, given]) => !isKnown(given)).map(([channel]) => channel);
    const known = new Map([...wanted].filter(([channel]) => !lost.includes(channel)));
    let start = [...known.values()].sort(comparePositions)[0];
    const events: BrokerEvent[] = [];
    while (start !== undefined && comparePositions(start, until) < 0) {
      const some = (await client.xRange(stream, `(${start}`, until, { COUNT: batch })) as unknown as Message[];
      for (const event of some.map(eventOf)) {
        const given = known.get(event.channel);
        if (given !== undefined && comparePositions(event.id, given) > 0) events.push(event);
      }
      start = some.length < batch ? undefined : some.at(-1)!.id;
    }
    return { position: until, events, lost };
  }
}

function eventOf({ id, message }: Message): BrokerEvent {
  return { id, channel: message['channel'] ?? '', text: message['text'] ?? '' };
}

function pause(length: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, length));
}
