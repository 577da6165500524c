/** Fetch handlers as listeners of Node’s `http` server. */
import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import type { Http2ServerRequest, Http2ServerResponse } from 'node:http2';
import { describeThrown } from '../diagnostics/index.ts';
import {
  type DataArguments,
  type DataOf,
  endExchanges,
  type Loom,
  type PageName,
  type RespondOptions,
} from '../loom/index.ts';
import { withEffectiveMethod } from '../security/index.ts';
import { finishAnswersFirst } from './closing.ts';
import { type Incoming, toRequest } from './incoming-request.ts';
import { type Outgoing, send } from './sending.ts';

/** Answers a Fetch request. */
export type Handler = (request: Request) => Response | Promise<Response>;

/**
 * A listener for `http.createServer`, and for `http2`, that answers by a Fetch handler. A handler that throws is answered with a
 * plain 500. When the server is closed, each connection ends with the answer that is on its way; so it does when the process is told to
 * end (SIGTERM) and the program does not listen for that itself.
 * @example http.createServer(nodeListener((request) => loom.respond(request, 'home'))).listen(3000)
 */
export function nodeListener(
  handler: Handler,
): (request: IncomingMessage | Http2ServerRequest, response: ServerResponse | Http2ServerResponse) => void {
  return (incoming, outgoing) => void handle(handler, incoming, outgoing);
}

/** Answers a plain `(request, response)` pair with a page. */
export async function answer<Name extends PageName>(
  loom: Loom,
  incoming: IncomingMessage,
  outgoing: ServerResponse,
  page: Name,
  ...rest: DataArguments<DataOf<Name>, RespondOptions>
): Promise<void> {
  await handle((request) => loom.respond(request, page, ...rest), incoming, outgoing);
}

/** Never rejects. */
async function handle(handler: Handler, incoming: Incoming, outgoing: Outgoing): Promise<void> {
  const abort = new AbortController();
  outgoing.once('close', () => {
    if (!outgoing.writableFinished) abort.abort();
  });
  const server = serverOf(incoming);
  if (server) {
    finishAnswersFirst(server);
    outgoing.once('finish', () => leaveClosed(server));
  }
  const arrived = toRequest(incoming, abort.signal);
  if (!arrived) {
    sendPlain(outgoing, 400, 'The URL of this request cannot be read.\n');
    return;
  }
  const request = withEffectiveMethod(arrived);
  try {
    await send(await handler(request), outgoing);
  } catch (error) {
    // A reader who hangs up is no error of ours.
    if (!abort.signal.aborted) {
      console.error(`A request failed. ${describeThrown(error)}`);
      sendPlain(outgoing, 500, 'Something went wrong.\n');
    }
  } finally {
    await endExchanges(request);
  }
}

/** An answer in plain text, or no more of one that has begun. */
function sendPlain(outgoing: Outgoing, status: number, text: string): void {
  if (outgoing.headersSent) {
    outgoing.destroy();
    return;
  }
  // What a handler had asked for may be what could not be sent.
  for (const name of outgoing.getHeaderNames()) outgoing.removeHeader(name);
  outgoing.statusCode = status;
  if (outgoing.req.httpVersionMajor < 2) outgoing.statusMessage = '';
  outgoing.setHeader('content-type', 'text/plain; charset=utf-8');
  outgoing.end(text);
}

/** A server that was closed would keep this connection for some seconds, for a next request that it does not take. */
function leaveClosed(server: Server): void {
  if (!server.listening) setImmediate(() => server.closeIdleConnections());
}

/** The server that a request came to; `undefined` for HTTP/2, whose connections end by themselves. */
function serverOf({ socket }: Incoming): Server | undefined {
  const { server } = socket as { server?: Server };
  return server && 'closeIdleConnections' in server ? server : undefined;
}
