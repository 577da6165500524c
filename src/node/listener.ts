/** Fetch handlers as listeners of Node’s `http` server. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import { withEffectiveMethod } from '../forms/index.ts';
import {
  type DataArguments,
  type DataOf,
  endExchanges,
  knownText,
  type Loom,
  type PageName,
  type RespondOptions,
} from '../loom/index.ts';

/** Answers a Fetch request. */
export type Handler = (request: Request) => Response | Promise<Response>;

/**
 * A listener for `http.createServer` that answers by a Fetch handler. A handler that throws is answered with a plain 500.
 * @example http.createServer(nodeListener((request) => loom.respond(request, 'home'))).listen(3000)
 */
export function nodeListener(handler: Handler): (request: IncomingMessage, response: ServerResponse) => void {
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

async function handle(handler: Handler, incoming: IncomingMessage, outgoing: ServerResponse): Promise<void> {
  const arrived = toRequest(incoming, outgoing);
  const request = arrived && withEffectiveMethod(arrived);
  if (!request) {
    outgoing
      .writeHead(400, { 'content-type': 'text/plain; charset=utf-8' })
      .end('The address of this request cannot be read.\n');
    return;
  }
  try {
    await send(await handler(request), outgoing);
  } catch (error) {
    // A reader who hangs up is no error of ours.
    if (request.signal.aborted) return;
    console.error('A request failed.', error);
    if (outgoing.headersSent) outgoing.destroy();
    else outgoing.writeHead(500, { 'content-type': 'text/plain; charset=utf-8' }).end('Something went wrong.\n');
  } finally {
    await endExchanges(request);
  }
}

/** The Fetch request, or `undefined` where the address or a header makes none. */
function toRequest(incoming: IncomingMessage, outgoing: ServerResponse): Request | undefined {
  const scheme = 'encrypted' in incoming.socket ? 'https' : 'http';
  const abort = new AbortController();
  outgoing.once('close', () => {
    if (!outgoing.writableFinished) abort.abort();
  });
  const hasBody = incoming.method !== 'GET' && incoming.method !== 'HEAD';
  try {
    // Only the path is the sender’s to choose: “//host” or a whole address must not change where the request leads.
    const target = /^https?:\/\//i.test(incoming.url ?? '') ? new URL(incoming.url!) : undefined;
    const path = target ? target.pathname + target.search : incoming.url!;
    const url = new URL(`${scheme}://${incoming.headers.host ?? 'localhost'}${path.startsWith('/') ? '' : '/'}${path}`);
    return new Request(url, {
      method: incoming.method ?? 'GET',
      headers: headersOf(incoming),
      body: hasBody ? (Readable.toWeb(incoming) as ReadableStream<Uint8Array>) : null,
      duplex: 'half',
      signal: abort.signal,
    } as RequestInit);
  } catch {
    return undefined;
  }
}

function headersOf(incoming: IncomingMessage): Array<[string, string]> {
  const headers: Array<[string, string]> = [];
  for (let index = 0; index + 1 < incoming.rawHeaders.length; index += 2) {
    const name = incoming.rawHeaders[index]!;
    // HTTP/2 pseudo headers are no headers (RFC 9113 §8.3).
    if (!name.startsWith(':')) headers.push([name, incoming.rawHeaders[index + 1]!]);
  }
  return headers;
}

async function send(response: Response, outgoing: ServerResponse): Promise<void> {
  outgoing.statusCode = response.status;
  if (response.statusText) outgoing.statusMessage = response.statusText;
  for (const [name, value] of response.headers) if (name !== 'set-cookie') outgoing.setHeader(name, value);
  const cookies = response.headers.getSetCookie();
  if (cookies.length > 0) outgoing.setHeader('set-cookie', cookies);
  const text = knownText(response);
  if (text !== undefined) outgoing.end(text);
  else if (response.body) await pump(response.body, outgoing);
  else outgoing.end();
}

/** Hands the body on chunk by chunk, at the pace of whoever reads; stops the body when nobody does any more. */
async function pump(body: ReadableStream<Uint8Array>, outgoing: ServerResponse): Promise<void> {
  const reader = body.getReader();
  const leave = () => void reader.cancel().catch(() => {});
  outgoing.once('close', leave);
  try {
    for (let read = await reader.read(); !read.done; read = await reader.read()) {
      if (outgoing.destroyed) return;
      if (!outgoing.write(read.value)) await drained(outgoing);
    }
    outgoing.end();
  } finally {
    outgoing.off('close', leave);
  }
}

/** Resolves when more can be written, or nobody reads. */
function drained(outgoing: ServerResponse): Promise<void> {
  return new Promise((resolve) => {
    const go = () => {
      outgoing.off('drain', go);
      outgoing.off('close', go);
      resolve();
    };
    outgoing.once('drain', go);
    outgoing.once('close', go);
  });
}
