/** Channels: changes of the page for everybody who looks, over server-sent events (HTML §9.2). */
import {
  anyFunction,
  assertArgument,
  assertOptions,
  describeValue,
  LoomError,
  messageOf,
  someText,
  withMethods,
} from '../diagnostics/index.ts';
import {
  assertRequest,
  carriesIncoming,
  incomingOf,
  isPairResponse,
  type PairRequest,
  type PairResponse,
  type Reply,
  ReplyHeaders,
} from '../http/index.ts';
import { doorOf, type Exchange, type PublicationPlace, readerOf } from '../loom/index.ts';
import { provenance } from '../security/index.ts';
import { Change } from '../updates/index.ts';
import { Connection } from './connection.ts';
import { channelDiagnostic } from './diagnostics.ts';
import { updateText } from './event-text.ts';
import { type ChannelsOptions, channelsTable, connectTable, publishTable } from './options.ts';

/** How a visitor is connected. */
export interface ConnectOptions {
  /** Whether a visitor may listen to a channel; asked at each connection. */
  authorize(channel: string, exchange: Exchange): boolean | Promise<boolean>;
}

/** How many listen, and what has happened. */
export interface ChannelStats {
  /** Readers that are connected. */
  connections: number;
  /** Channels that somebody listens to, and how many do. */
  channels: Record<string, number>;
  /** Since the process has begun. */
  published: number;
  /** Connections that were answered with 503. */
  refused: number;
}

/** The channels of a loom: who listens, and what is told. */
export interface Channels {
  /**
   * Publishes changes to all who listen. They are rendered once; a template that reads what is a visitor’s alone is an error.
   * @param place where times and numbers are written for
   * @throws {TemplateError} for an error in a template
   * @throws {LoomError} where the broker cannot be reached: nothing is published then
   * @example await channels.publish('arrivals', put('arrival-row', { arrival }).atStartOf('arrivals-rows'));
   */
  publish(channel: string, changes: Change | readonly Change[], place?: PublicationPlace): Promise<void>;
  /**
   * The answer to a browser that listens.
   * @example app.get('/channels', (c) => channels.connect(c.req.raw, { authorize: (channel) => channel === 'arrivals' }));
   */
  connect(request: Request, options: ConnectOptions): Promise<Response>;
  /**
   * The same for servers that hand out `(req, res)`. Resolves when the connection has ended.
   * @example app.get('/channels', (req, res) => channels.connect(req, res, { authorize: (channel) => channel === 'arrivals' }));
   */
  connect(req: PairRequest, res: PairResponse, options: ConnectOptions): Promise<void>;
  /** How many listen, and what has happened so far. */
  stats(): ChannelStats;
  /** Ends all connections; browsers connect again after a while, each after another. */
  close(): Promise<void>;
}

/** Milliseconds before a browser whose connection was cut connects again: not all at once where a process was killed. */
const [shortestRetry, longestRetry] = [1000, 4000];

/** So many channels may be asked for at once. */
const mostChannels = 100;

/**
 * Channels for the pages of a loom.
 * @throws {LoomError} for options that are none
 * @example const channels = createChannels({ loom, broker: memoryBroker() });
 */
export function createChannels(options: ChannelsOptions): Channels {
  assertOptions('createChannels', options, channelsTable);
  assertArgument('createChannels', 'broker', options?.broker, withMethods('a broker', 'publish', 'listen', 'since'));
  const { loom, broker, path = '/channels', heartbeat = 20_000, backlog = 1_000_000 } = options;
  const { maximumConnections = 20_000, maximumPerVisitor = 30, retryAfter = 5000 } = options;
  const door = doorOf(loom);
  door.join({ path, position: () => broker.position() });
  const listeners = new Map<string, Set<Connection>>();
  const connections = new Set<Connection>();
  let beating: ReturnType<typeof setInterval> | undefined;
  const byVisitor = new Map<string, number>();
  let published = 0;
  let refused = 0;
  let isClosed = false;

  broker.listen((event) => {
    const some = listeners.get(event.channel);
    if (!some) return;
    // Made once, whatever the number of those who listen.
    const text = updateText(event);
    for (const one of some) one.send(event, text);
  }, missAll);

  return { publish, connect, stats, close };

  /** Nobody knows what was lost: all regions are asked for. */
  function missAll(position: string): void {
    for (const one of connections) one.miss(position);
  }

  async function publish(
    channel: string,
    changes: Change | readonly Change[],
    place: PublicationPlace = {},
  ): Promise<void> {
    assertChannel(channel);
    assertOptions('publish', place, publishTable);
    door.watch?.published(channel);
    const list = changes instanceof Change ? [changes] : changes;
    if (!Array.isArray(list) || !list.every((one) => one instanceof Change))
      throw new LoomError(channelDiagnostic('invalid-publication', { given: describeValue(changes) }));
    let text = '';
    for (const change of list as readonly Change[]) text += await door.render(change, place);
    try {
      await broker.publish(channel, text);
    } catch (error) {
      throw new LoomError(channelDiagnostic('undelivered-publication', { channel, reason: messageOf(error) }), error);
    }
    published++;
  }

  function connect(request: Request, options: ConnectOptions): Promise<Response>;
  function connect(req: PairRequest, res: PairResponse, options: ConnectOptions): Promise<void>;
  function connect(
    request: Request | PairRequest,
    second: ConnectOptions | PairResponse,
    third?: ConnectOptions,
  ): Promise<unknown> {
    if (isPairResponse(second) && door.pair)
      return door.pair(request as PairRequest, second, (fetched) => connectRequest(fetched, third!));
    return connectRequest(request as Request, second as ConnectOptions);
  }

  async function connectRequest(request: Request, given: ConnectOptions): Promise<Response> {
    if (!carriesIncoming(request)) assertRequest(request);
    assertOptions('connect', given, connectTable);
    assertArgument('connect', '“authorize”', given?.authorize, anyFunction);
    door.watch?.heard();
    const incoming = incomingOf(request);
    const reply = await answer(request, given);
    return incoming.responseOf(reply);
  }

  async function answer(request: Request, { authorize }: ConnectOptions): Promise<Reply> {
    const incoming = incomingOf(request);
    if (incoming.method !== 'GET') return refusal(405, 'Connections are made with GET.', ['allow', 'GET']);
    if (provenance(incoming, incoming.origin) === 'foreign') return refusal(403, 'Another site cannot listen.');
    const exchange = await loom.exchange(request);
    const wanted = wantedOf(new URL(incoming.url), incoming.header('last-event-id'), broker.position());
    const allowed = new Map<string, string>();
    for (const [channel, position] of wanted)
      if ((await authorize(channel, exchange)) === true) allowed.set(channel, position);
    if (allowed.size === 0) return refusal(403, 'None of these channels is open.');
    const visitor = readerOf(exchange);
    // Without a session or an address nobody can be told from others.
    const hasTooMany = visitor !== '' && (byVisitor.get(visitor) ?? 0) >= maximumPerVisitor;
    if (isClosed || connections.size >= maximumConnections || hasTooMany) {
      refused++;
      return refusal(503, 'There are too many connections.', ['retry-after', String(Math.ceil(retryAfter / 1000))]);
    }
    const connection = open([...allowed.keys()], visitor);
    connection.greet(shortestRetry + Math.random() * (longestRetry - shortestRetry));
    void broker.since(allowed).then(
      (replay) => connection.begin(replay),
      (err: unknown) => {
        door.logger.error({ err }, 'What was missed on a channel could not be had.');
        connection.begin({ position: broker.position(), events: [], lost: [...allowed.keys()] });
      },
    );
    const headers = new ReplyHeaders();
    headers.set('content-type', 'text/event-stream; charset=utf-8');
    headers.set('cache-control', 'no-store, no-transform');
    headers.set('x-accel-buffering', 'no');
    return { status: 200, headers, body: connection };
  }

  function open(channels: readonly string[], visitor: string): Connection {
    const connection = new Connection({ channels, visitor, backlog, onEnd: left });
    if (connections.size === 0) beating = setInterval(beat, heartbeat);
    connections.add(connection);
    byVisitor.set(visitor, (byVisitor.get(visitor) ?? 0) + 1);
    for (const channel of channels) {
      const some = listeners.get(channel) ?? new Set();
      listeners.set(channel, some.add(connection));
    }
    return connection;
  }

  function left(connection: Connection): void {
    const { visitor } = connection;
    connections.delete(connection);
    if (connections.size === 0) clearInterval(beating);
    const rest = (byVisitor.get(visitor) ?? 1) - 1;
    if (rest > 0) byVisitor.set(visitor, rest);
    else byVisitor.delete(visitor);
    for (const channel of connection.channels) {
      const some = listeners.get(channel);
      some?.delete(connection);
      if (some?.size === 0) listeners.delete(channel);
    }
  }

  function beat(): void {
    for (const one of connections) one.beat();
  }

  function stats(): ChannelStats {
    const channels = Object.fromEntries([...listeners].map(([name, some]) => [name, some.size]));
    return { connections: connections.size, channels, published, refused };
  }

  async function close(): Promise<void> {
    isClosed = true;
    clearInterval(beating);
    // Not all at once: whoever takes over is not to be met by everybody in the same moment.
    for (const one of [...connections]) one.drain(1000 + Math.random() * 9000);
    await broker.close();
  }
}

/** The channels that are asked for, each with the position of its reader. */
function wantedOf(url: URL, last: string | undefined, now: string): Map<string, string> {
  const wanted = new Map<string, string>();
  const names = url.searchParams.getAll('channel').slice(0, mostChannels);
  const positions = url.searchParams.getAll('after');
  for (const [at, name] of names.entries()) if (isChannel(name)) wanted.set(name, last || positions[at] || now);
  return wanted;
}

function refusal(status: number, text: string, header?: [name: string, value: string]): Reply {
  const headers = new ReplyHeaders();
  headers.set('content-type', 'text/plain; charset=utf-8');
  headers.set('cache-control', 'no-store');
  if (header) headers.set(...header);
  return { status, headers, body: `${text}\n` };
}

function isChannel(name: unknown): name is string {
  return someText.holds(name) && /^\S{1,200}$/.test(name as string);
}

function assertChannel(name: unknown): void {
  if (!isChannel(name)) throw new LoomError(channelDiagnostic('invalid-channel', { name: String(name) }));
}
