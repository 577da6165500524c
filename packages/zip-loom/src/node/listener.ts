/** Fetch handlers as listeners of Node’s `http` server, and as middleware of routers that work with its requests. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Http2ServerRequest, Http2ServerResponse } from 'node:http2';
import { assertOptions, describeThrown, LoomError, trueOrFalse } from '../diagnostics/index.ts';
import { isPromise } from '../kernel/index.ts';
import { nodeDiagnostic } from './diagnostics.ts';
import { type NodeIncoming, nodeIncoming, type Outgoing } from './incoming.ts';
import { send } from './sending.ts';

/** Answers a Fetch request. */
export type Handler = (request: Request) => Response | Promise<Response>;

/** Goes on to whatever a router has for errors. */
export type Next = (error?: unknown) => void;

/** How requests and answers are handed over. */
export interface ListenerOptions {
  /**
   * Whether handlers are given requests, and answers, of the platform’s own classes at once. Default: `false`. These objects take
   * longer to make than most pages; the ones that stand for them become real when a handler needs it, but code of the platform
   * itself cannot look into them on Node 24 and later, as in `new Request(request)` or `fetch(request)`.
   */
  standardObjects?: boolean;
}

/**
 * A listener for `http.createServer`, and for `http2`, that answers by a Fetch handler; also middleware for routers that call `next`
 * with errors. A handler that throws is answered with a plain 500 where there is no `next`. When the server is closed, each connection
 * ends with the answer that is on its way; so it does when the process is told to end (SIGTERM) and the program does not listen for
 * that itself.
 * @example http.createServer(nodeListener((request) => loom.respond(request, 'home'))).listen(3000)
 */
export function nodeListener(
  handler: Handler,
  given: ListenerOptions = {},
): (req: IncomingMessage | Http2ServerRequest, res: ServerResponse | Http2ServerResponse, next?: Next) => void {
  assertOptions('nodeListener', given, { standardObjects: trueOrFalse });
  if (typeof handler !== 'function') throw new LoomError(nodeDiagnostic('invalid-handler'));
  const options = { standardObjects: given.standardObjects ?? false };
  return (req, res, next) => {
    const incoming = nodeIncoming(req, res, options);
    if (incoming) handle(incoming, res, next, () => handler(incoming.request));
    else refuseURL(res);
  };
}

/**
 * Makes an answer and sends it. Throws nothing.
 * @param whenDone called when all of it is written, or nobody reads it any more
 */
export function handle(
  incoming: NodeIncoming,
  res: Outgoing,
  next: Next | undefined,
  answer: () => Response | Promise<Response>,
  whenDone?: () => void,
): void {
  const done = (error?: unknown) => {
    // A reader who hangs up is no error of ours.
    if (error !== undefined && !incoming.hasLeft) fail(error, res, next);
    // Whatever fails at the end is nobody’s concern any more.
    void incoming.end().then(whenDone, whenDone);
  };
  const wrong = (error: unknown) => done(error ?? new Error('The handler threw nothing.'));
  const deliver = (response: Response) => send(response, res, done);
  try {
    const response = answer();
    // A promise of whatever kind: a handler may run in another realm.
    if (isPromise(response)) response.then(deliver, wrong);
    else deliver(response);
  } catch (error) {
    wrong(error);
  }
}

/** Hands an error on where there is somebody for it; else it is told here. */
function fail(error: unknown, res: Outgoing, next: Next | undefined): void {
  if (next && !res.headersSent) {
    next(error);
    return;
  }
  console.error(`A request failed. ${describeThrown(error)}`);
  sendPlain(res, 500, 'Something went wrong.\n');
}

export function refuseURL(res: Outgoing): void {
  sendPlain(res, 400, 'The URL of this request cannot be read.\n');
}

/** Where a router goes on from a request, as those of the family of Express have it. */
export function nextOf(req: object): Next | undefined {
  const { next } = req as { next?: unknown };
  return typeof next === 'function' ? (next as Next) : undefined;
}

/** An answer in plain text, or no more of one that has begun. */
function sendPlain(res: Outgoing, status: number, text: string): void {
  if (res.headersSent) {
    // One that is whole stays so, whatever came after it.
    if (!res.writableEnded) res.destroy();
    return;
  }
  // What a handler had asked for may be what could not be sent.
  for (const name of res.getHeaderNames()) res.removeHeader(name);
  res.statusCode = status;
  if (res.req.httpVersionMajor < 2) res.statusMessage = '';
  res.setHeader('content-type', 'text/plain; charset=utf-8');
  res.end(text);
}
