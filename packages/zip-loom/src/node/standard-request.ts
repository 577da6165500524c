/** A request of Node’s as the platform’s own `Request`, for what only that can do. */
import type { IncomingMessage } from 'node:http';
import type { Http2ServerRequest } from 'node:http2';
import { bodyStream } from './incoming-body.ts';

/** What such a request is made of. */
export interface RequestParts {
  req: IncomingMessage | Http2ServerRequest;
  method: string;
  url: string;
  headers: Headers;
  onLeave(leave: () => void): void;
}

export function makeRequest({ req, method, url, headers, onLeave }: RequestParts): Request {
  const abort = new AbortController();
  onLeave(() => abort.abort());
  const hasBody = method !== 'GET' && method !== 'HEAD';
  return new Request(url, {
    method,
    headers,
    body: hasBody ? bodyStream(req) : null,
    duplex: 'half',
    signal: abort.signal,
  } as RequestInit);
}

export function headersOf(raw: readonly string[]): Headers {
  const headers = new Headers();
  for (let index = 0; index + 1 < raw.length; index += 2) {
    const name = raw[index]!;
    // HTTP/2 pseudo headers are no headers (RFC 9113 §8.3).
    if (!name.startsWith(':')) headers.append(name, raw[index + 1]!);
  }
  return headers;
}

/** Methods that no `Request` can have (Fetch §2.2.1). */
const forbidden = new Set(['CONNECT', 'TRACE', 'TRACK']);

/** Methods that are the same in lower case (Fetch §2.2.1). */
const caseless = new Set(['DELETE', 'GET', 'HEAD', 'OPTIONS', 'POST', 'PUT']);

/** The method of a request as the Fetch standard has it; `undefined` for one that no `Request` can have. */
export function standardMethod(method = 'GET'): string | undefined {
  const upper = method.toUpperCase();
  if (forbidden.has(upper)) return undefined;
  return caseless.has(upper) ? upper : method;
}
