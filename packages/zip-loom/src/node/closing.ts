/** Servers that end without cutting an answer off. */
import type { Server, ServerResponse } from 'node:http';
import { anyFunction, assertArgument, assertOptions, numberFrom, withMethods } from '../diagnostics/index.ts';

/** How a server is closed. */
export interface ClosingOptions {
  /** Called at once, as to end connections that would never end: `() => channels.close()`. */
  beforeClose?: () => void | Promise<void>;
  /** Called when the last answer has been sent, as to close a database. */
  onClosed?: () => void | Promise<void>;
  /** Milliseconds after which connections are cut that are still open. Default: 10,000. */
  timeout?: number;
}

/** How often connections that have become idle are looked for while a server closes, in milliseconds. */
const interval = 50;

/** Servers that answer, and for which nobody has said what a signal means. */
const serving = new Set<Server>();

/**
 * Lets a process that is told to end (SIGTERM) finish the answers of a request’s server first, where the program does not listen for
 * the signal itself. Then the signal does what it would have done.
 */
export function finishAnswersFirst(request: Connected): void {
  const server = serverOf(request);
  if (!server || serving.has(server) || owned.has(server)) return;
  // First in the row, so that others who listen can still be counted.
  if (serving.size === 0) process.prependListener('SIGTERM', onSignal);
  serving.add(server);
  server.once('close', () => leave(server));
}

/**
 * Ends the connection of an answer whose server was closed: it would be kept for some seconds, for a next request that will not be
 * answered.
 */
export function leaveClosed(request: Connected, response: Pick<ServerResponse, 'once' | 'writableFinished'>): void {
  const server = serverOf(request);
  if (!server || server.listening) return;
  const leaveSoon = () => setImmediate(() => server.closeIdleConnections());
  if (response.writableFinished) leaveSoon();
  else response.once('finish', leaveSoon);
}

/** A request that came over a connection. */
interface Connected {
  readonly socket: object;
}

/** The server that a request came to; `undefined` for HTTP/2, whose connections end by themselves. */
function serverOf({ socket }: Connected): Server | undefined {
  const { server } = socket as { server?: Server };
  return server && 'closeIdleConnections' in server ? server : undefined;
}

/** Servers that `closeOnSignals` was told of. */
const owned = new WeakSet<Server>();

function leave(server: Server): void {
  serving.delete(server);
  if (serving.size === 0) process.off('SIGTERM', onSignal);
}

function onSignal(): void {
  // Whoever listens too decides alone.
  if (process.listenerCount('SIGTERM') > 1) return;
  const all = [...serving].map((server) => closeServer(server, {}));
  void Promise.all(all).then(() => process.kill(process.pid, 'SIGTERM'));
}

/**
 * Lets a server end when the process is told to (SIGTERM, or SIGINT from a terminal): it takes no new connections, answers that
 * are on their way are finished, then `onClosed` is called. The process ends when nothing keeps it; a second signal ends it at once.
 * @example closeOnSignals(createServer(nodeListener(handler)).listen(3000), { onClosed: () => database.close() })
 */
export function closeOnSignals(server: Server, options: ClosingOptions = {}): void {
  assertArgument('closeOnSignals', 'server', server, withMethods('a server of Node’s', 'close', 'once', 'listen'));
  assertOptions('closeOnSignals', options, { beforeClose: anyFunction, onClosed: anyFunction, timeout: numberFrom(0) });
  owned.add(server);
  leave(server);
  const signals = ['SIGTERM', 'SIGINT'] as const;
  const begin = () => {
    for (const signal of signals) process.off(signal, begin);
    void closeServer(server, options);
  };
  for (const signal of signals) process.once(signal, begin);
}

async function closeServer(server: Server, { beforeClose, onClosed, timeout = 10_000 }: ClosingOptions): Promise<void> {
  // A connection is kept for a next request that will not be answered: it goes as soon as it is idle.
  const idle = setInterval(() => server.closeIdleConnections(), interval);
  const late = setTimeout(() => server.closeAllConnections(), timeout);
  const closed = new Promise<void>((resolve) => server.close(() => resolve()));
  await beforeClose?.();
  await closed;
  clearInterval(idle);
  clearTimeout(late);
  await onClosed?.();
}
