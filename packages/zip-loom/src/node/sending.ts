/** An answer → Node’s `http` or `http2` server: strings at once, what comes later at the pace of whoever reads. */
import { ServerResponse } from 'node:http';
import type { TextSource } from '../http/index.ts';
import type { Outgoing } from './incoming.ts';
import { knownText } from './known-text.ts';
import { flatList, LightResponse, type Sendable } from './light-response.ts';

/** The methods that both kinds of answers have; their types cannot be called as a union. */
type Writable = Pick<ServerResponse, 'write' | 'end' | 'destroyed' | 'once' | 'off'>;

/** Longer texts are written in pieces of this many UTF-16 code units, so that none is in memory as bytes at once. */
const longestPiece = 2 ** 18;

/** What HTTP/2 has no headers for (RFC 9113 §8.2.2). */
const ofConnections = new Set(['connection', 'keep-alive', 'proxy-connection', 'transfer-encoding', 'upgrade']);

/**
 * Sends a response.
 * @param done called once: when all is written, with an error when it could not be sent as it is, or when the reader has gone
 */
export function send(response: Response, outgoing: Outgoing, done: (error?: unknown) => void): void {
  try {
    begin(response, outgoing as Outgoing & Writable, done);
  } catch (error) {
    done(error);
  }
}

function begin(response: Response, outgoing: Outgoing & Writable, done: (error?: unknown) => void): void {
  const sendable = LightResponse.sendable(response) ?? sendableOf(response);
  const { body } = sendable;
  if (typeof body === 'object') {
    // What fails before its first byte can still become another answer.
    const head = () => writeHead(sendable, outgoing, undefined);
    if ('next' in body) new SourceSending(body, outgoing, head, done).begin();
    else sendStream(body, outgoing, head).then(() => done(), done);
    return;
  }
  writeHead(sendable, outgoing, body === undefined ? lengthOfNothing(sendable, outgoing) : Buffer.byteLength(body));
  if (body !== undefined && body.length > longestPiece) {
    sendLong(body, outgoing).then(() => done(), done);
    return;
  }
  outgoing.end(body);
  done();
}

/** RFC 9110 §8.6: an answer says that it is empty, but for those that never have content, and for what HEAD does not show. */
function lengthOfNothing({ status }: Sendable, { req }: Outgoing): 0 | undefined {
  return req.method === 'HEAD' || status === 204 || status === 304 ? undefined : 0;
}

function sendableOf(response: Response): Sendable {
  const { status, statusText, headers } = response;
  return { status, statusText, headers: flatList(headers), body: knownText(response) ?? response.body ?? undefined };
}

function writeHead({ status, statusText, headers }: Sendable, outgoing: Outgoing, length: number | undefined): void {
  const plain = plainResponse(outgoing);
  if (plain) {
    const list = length === undefined ? (headers as string[]) : [...headers, 'content-length', String(length)];
    if (statusText) plain.writeHead(status, statusText, list);
    else plain.writeHead(status, list);
    return;
  }
  const isHTTP2 = outgoing.req.httpVersionMajor >= 2;
  outgoing.statusCode = status;
  if (statusText && !isHTTP2) (outgoing as ServerResponse).statusMessage = statusText;
  const cookies: string[] = [];
  for (let at = 0; at < headers.length; at += 2) {
    const name = headers[at]!;
    const value = headers[at + 1]!;
    if (name === 'set-cookie') cookies.push(value);
    else if (name === 'vary') outgoing.setHeader(name, withEarlier(outgoing.getHeader(name), value));
    else if (!(isHTTP2 && ofConnections.has(name))) outgoing.setHeader(name, value);
  }
  if (cookies.length > 0)
    outgoing.setHeader('set-cookie', [...earlierValues(outgoing.getHeader('set-cookie')), ...cookies]);
  if (length !== undefined) outgoing.setHeader('content-length', length);
}

/** The answer, where nobody has set a header before, nor waits for the moment when they are sent. */
function plainResponse(outgoing: Outgoing): ServerResponse | undefined {
  if (!(outgoing instanceof ServerResponse) || outgoing.writeHead !== ServerResponse.prototype.writeHead)
    return undefined;
  return outgoing.getHeaderNames().length === 0 ? outgoing : undefined;
}

function withEarlier(earlier: ReturnType<ServerResponse['getHeader']>, value: string): string {
  return [...earlierValues(earlier), value].join(', ');
}

function earlierValues(earlier: ReturnType<ServerResponse['getHeader']>): string[] {
  if (earlier === undefined) return [];
  return Array.isArray(earlier) ? earlier : [String(earlier)];
}

async function sendLong(text: string, outgoing: Writable): Promise<void> {
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

/** Hands text on piece by piece. Not an async function: while it waits, such a function would hold the piece that it has sent. */
class SourceSending {
  private readonly source: TextSource;
  private readonly outgoing: Writable;
  /** Forgotten when it is written, with all that it holds. */
  private head: (() => void) | undefined;
  private readonly done: (error?: unknown) => void;

  constructor(source: TextSource, outgoing: Writable, head: () => void, done: (error?: unknown) => void) {
    this.source = source;
    this.outgoing = outgoing;
    this.head = head;
    this.done = done;
  }

  begin(): void {
    this.outgoing.once('close', this.leave);
    if (this.outgoing.destroyed) this.leave();
    else this.ask();
  }

  private readonly ask = (): void => void this.source.next().then(this.take, this.end);

  private readonly take = (text: string | undefined): void => {
    if (this.outgoing.destroyed) return;
    try {
      this.write(text);
    } catch (error) {
      this.end(error);
    }
  };

  private readonly leave = (): void => {
    this.source.cancel();
    this.done();
  };

  private readonly end = (error?: unknown): void => {
    this.outgoing.off('close', this.leave);
    this.done(error);
  };

  private write(text: string | undefined): void {
    this.head?.();
    this.head = undefined;
    if (text === undefined) {
      this.outgoing.end();
      this.end();
      return;
    }
    const hasRoom = this.outgoing.write(text);
    flush(this.outgoing);
    if (hasRoom) this.ask();
    else this.outgoing.once('drain', this.ask);
  }
}

/** Hands the body on chunk by chunk; stops the body when nobody reads any more. */
async function sendStream(body: ReadableStream<Uint8Array>, outgoing: Writable, head: () => void): Promise<void> {
  let hasBegun = false;
  const reader = body.getReader();
  const leave = () => void reader.cancel().catch(() => {});
  outgoing.once('close', leave);
  if (outgoing.destroyed) leave();
  try {
    for (let read = await reader.read(); !read.done; read = await reader.read()) {
      if (outgoing.destroyed) return;
      if (!hasBegun) head();
      hasBegun = true;
      const hasRoom = outgoing.write(read.value);
      flush(outgoing);
      if (!hasRoom) await drained(outgoing);
    }
    if (!hasBegun) head();
    outgoing.end();
  } finally {
    outgoing.off('close', leave);
  }
}

/** Middleware that compresses holds back what comes until it is much, unless it is told not to. */
function flush(outgoing: Writable & { flush?: () => void }): void {
  outgoing.flush?.();
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
