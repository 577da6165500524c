/** A request of Node’s `http` or `http2` as a Fetch `Request`. */
import type { IncomingMessage } from 'node:http';
import type { Http2ServerRequest } from 'node:http2';
import { readURL } from '../page/index.ts';
import { bodyOf } from './incoming-body.ts';

export type Incoming = IncomingMessage | Http2ServerRequest;

/** The Fetch request, or `undefined` where its host, its URL or a header makes none. */
export function toRequest(incoming: Incoming, signal: AbortSignal): Request | undefined {
  const host = hostOf(incoming);
  const target = incoming.url ?? '';
  if (host === undefined) return undefined;
  const hasBody = incoming.method !== 'GET' && incoming.method !== 'HEAD';
  try {
    const url = new URL(`${isEncrypted(incoming) ? 'https' : 'http'}://${host}/`);
    setPath(url, target);
    return new Request(url, {
      method: incoming.method ?? 'GET',
      headers: headersOf(incoming),
      body: hasBody ? bodyOf(incoming) : null,
      duplex: 'half',
      signal,
    } as RequestInit);
  } catch {
    return undefined;
  }
}

/** Only the path is the sender’s to choose: `//host` or a whole URL (RFC 9112 §3.2.2) must not change where the request leads. */
function setPath(url: URL, target: string): void {
  if (/^https?:\/\//i.test(target)) {
    const { pathname, search } = new URL(target);
    url.pathname = pathname;
    url.search = search;
    return;
  }
  const query = target.indexOf('?');
  url.pathname = query === -1 ? target : target.slice(0, query);
  url.search = query === -1 ? '' : target.slice(query);
}

/**
 * The host that was asked for (RFC 9110 §7.2), of HTTP/2 its `:authority`; `undefined` for text that is more than a host and a
 * port. Without one, as HTTP/1.0 allows, it is this machine.
 */
function hostOf(incoming: Incoming): string | undefined {
  const host = incoming.headers[':authority'] ?? incoming.headers.host ?? 'localhost';
  return typeof host === 'string' && hostAndPort.test(host) && readURL(`http://${host}/`) ? host : undefined;
}

/** RFC 3986 §3.2.2 and §3.2.3: a name or a URL, without user, path and query. */
const hostAndPort = /^(?:\[[\da-f:.]+\]|[\w.~!$&'()*+,;=%-]+)(?::\d*)?$/i;

function isEncrypted({ socket }: Incoming): boolean {
  return (socket as { encrypted?: boolean }).encrypted === true;
}

function headersOf({ rawHeaders }: Incoming): Array<[string, string]> {
  const headers: Array<[string, string]> = [];
  for (let index = 0; index + 1 < rawHeaders.length; index += 2) {
    const name = rawHeaders[index]!;
    // HTTP/2 pseudo headers are no headers (RFC 9113 §8.3).
    if (!name.startsWith(':')) headers.push([name, rawHeaders[index + 1]!]);
  }
  return headers;
}
