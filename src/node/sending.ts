/** A Fetch `Response` → the answer of Node’s `http` or `http2` server. */
import type { ServerResponse } from 'node:http';
import type { Http2ServerResponse } from 'node:http2';
import { knownText } from '../loom/index.ts';

export type Outgoing = ServerResponse | Http2ServerResponse;

/** The methods that both kinds of answers have; their types cannot be called as a union. */
type Writable = Pick<ServerResponse, 'write' | 'end' | 'setHeader' | 'destroyed' | 'once' | 'off' | 'statusCode'>;

/** Longer texts are written in pieces of this many UTF-16 code units, so that none is in memory as bytes at once. */
const longestPiece = 2 ** 18;

/** What HTTP/2 has no headers for (RFC 9113 §8.2.2). */
const ofConnections = new Set(['connection', 'keep-alive', 'proxy-connection', 'transfer-encoding', 'upgrade']);

/** Sends an answer. Rejects when it cannot be sent as it is. */
export async function send(response: Response, outgoing: Outgoing): Promise<void> {
  const isHTTP2 = !('statusMessage' in outgoing) || outgoing.req.httpVersionMajor >= 2;
  const writable = outgoing as Writable;
  writable.statusCode = response.status;
  if (response.statusText && !isHTTP2) (outgoing as ServerResponse).statusMessage = response.statusText;
  for (const [name, value] of response.headers) {
    if (name !== 'set-cookie' && !(isHTTP2 && ofConnections.has(name))) writable.setHeader(name, value);
  }
  const cookies = response.headers.getSetCookie();
  if (cookies.length > 0) writable.setHeader('set-cookie', cookies);
  const text = knownText(response);
  if (text === undefined) {
    if (response.body) await pump(response.body, writable);
    else writable.end();
  } else if (text.length <= longestPiece) {
    writable.end(text);
  } else {
    await sendLong(text, writable);
  }
}

async function sendLong(text: string, outgoing: Writable): Promise<void> {
  outgoing.setHeader('content-length', Buffer.byteLength(text));
  for (let start = 0; start < text.length; ) {
    let end = start + longestPiece;
    // A surrogate pair is one character in UTF-8.
    if ((text.charCodeAt(end - 1) & 0xfc00) === 0xd800) end--;
    if (outgoing.destroyed) return;
    if (!outgoing.write(text.slice(start, end))) await drained(outgoing);
    start = end;
  }
  outgoing.end();
}

/** Hands the body on chunk by chunk, at the pace of whoever reads; stops the body when nobody does any more. */
async function pump(body: ReadableStream<Uint8Array>, outgoing: Writable): Promise<void> {
  const reader = body.getReader();
  const leave = () => void reader.cancel().catch(() => {});
  outgoing.once('close', leave);
  if (outgoing.destroyed) leave();
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
function drained(outgoing: Writable): Promise<void> {
  return new Promise((resolve) => {
    const go = () => {
      outgoing.off('drain', go);
      outgoing.off('close', go);
      resolve();
    };
    outgoing.once('drain', go);
    outgoing.once('close', go);
    if (outgoing.destroyed) go();
  });
}
