/** The head of a request of Node’s: its headers, and its host and its target as one URL. */
import type { IncomingMessage } from 'node:http';
import type { Http2ServerRequest } from 'node:http2';
import { isPlainPath, readURL } from '../kernel/index.ts';

/** A header by its name in lower case; several of one name are joined. */
export function headerOf({ headers }: IncomingMessage | Http2ServerRequest, name: string): string | undefined {
  const value = headers[name];
  return typeof value === 'string' ? value : value?.join(', ');
}

interface Target {
  /** As the URL standard writes it. */
  url: string;
  origin: string;
}

/** The URL of a request; `undefined` where its host or its target makes none. */
export function targetOf(req: IncomingMessage | Http2ServerRequest): Target | undefined {
  const host = req.headers[':authority'] ?? req.headers.host ?? 'localhost';
  const scheme = (req.socket as { encrypted?: boolean }).encrypted === true ? 'https' : 'http';
  const origin = typeof host === 'string' ? originOf(scheme, host) : undefined;
  if (origin === undefined) return undefined;
  // A router that is mounted on a path takes the path away and leaves the whole here.
  const target = (req as { originalUrl?: string }).originalUrl ?? req.url ?? '';
  if (isPlainPath(target)) return { url: origin + target, origin };
  const url = readURL(origin);
  if (!url || !setPath(url, target)) return undefined;
  return { url: url.href, origin };
}

/** Only the path is the sender’s to choose: `//host` or a whole URL (RFC 9112 §3.2.2) must not change where the request leads. */
function setPath(url: URL, target: string): boolean {
  if (/^https?:\/\//i.test(target)) {
    const whole = readURL(target);
    if (!whole) return false;
    url.pathname = whole.pathname;
    url.search = whole.search;
    return true;
  }
  const query = target.indexOf('?');
  url.pathname = query === -1 ? target : target.slice(0, query);
  url.search = query === -1 ? '' : target.slice(query);
  return true;
}

/** Hosts that were asked for lately, and the origins that they make, by scheme. */
const origins = { http: new Map<string, string | undefined>(), https: new Map<string, string | undefined>() };

/** Senders write whatever they like: a few are kept, not any number. */
const mostOrigins = 100;

/**
 * The origin of the host that was asked for (RFC 9110 §7.2); `undefined` for text that is more than a host and a port. Without a
 * host, as HTTP/1.0 allows, it is this machine.
 */
function originOf(scheme: 'http' | 'https', host: string): string | undefined {
  const known = origins[scheme];
  if (known.has(host)) return known.get(host);
  const origin = hostAndPort.test(host) ? readURL(`${scheme}://${host}/`)?.origin : undefined;
  if (known.size >= mostOrigins) known.clear();
  known.set(host, origin);
  return origin;
}

/** RFC 3986 §3.2.2 and §3.2.3: a name or a URL, without user, path and query. */
const hostAndPort = /^(?:\[[\da-f:.]+\]|[\w.~!$&'()*+,;=%-]+)(?::\d*)?$/i;
