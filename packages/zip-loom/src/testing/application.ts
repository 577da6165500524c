/** What a test is run against: a handler, an application with one, a listener of Node’s, or a loom’s own pages. */
import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Loom } from '../loom/index.ts';

/** Answers a Fetch request. */
export type FetchHandler = (request: Request) => Response | Promise<Response>;

/**
 * A Fetch handler, an object with one as `fetch`, a listener of Node’s such as an application of a router, or a loom, whose pages
 * without data are answered by their paths.
 */
export type Application =
  | FetchHandler
  | { fetch(request: Request): Response | Promise<Response> }
  | RequestListener
  | Loom;

/**
 * An application as a Fetch handler.
 * @throws {TypeError} for what answers no requests
 */
export function handlerOf(application: Application): FetchHandler {
  if (typeof application === 'function')
    return application.length < 2 ? (application as FetchHandler) : overHTTP(application as RequestListener);
  if (typeof application === 'object' && application !== null) {
    if ('fetch' in application) return (request) => application.fetch(request);
    if ('routes' in application) return pagesOf(application);
  }
  throw new TypeError(
    'This answers no requests. Give a function that takes a Request, an object with such a function as “fetch”, a listener (req, res) of Node’s, or a loom.',
  );
}

/** The pages of a loom that need no data. */
function pagesOf(loom: Loom): FetchHandler {
  return (request) => {
    const { pathname } = new URL(request.url);
    if (request.method !== 'GET')
      throw new TypeError(
        `A loom alone does not answer ${request.method} ${pathname}: give the handler that reads the form instead of the loom.`,
      );
    const found = loom.routes().find(({ path }) => path === decodeURI(pathname));
    if (!found)
      throw new TypeError(
        `No page of the loom that needs no data is at ${pathname}. Give the handler that has the data instead of the loom.`,
      );
    return loom.respond(request, found.page);
  };
}

/** Listeners are asked over HTTP, as they would be. The server keeps no process. */
function overHTTP(listener: RequestListener): FetchHandler {
  let address: Promise<string> | undefined;
  const listen = () =>
    new Promise<string>((resolve) => {
      const server = createServer(listener);
      server.unref().listen(0, '127.0.0.1', () => {
        resolve(`http://127.0.0.1:${(server.address() as AddressInfo).port}`);
      });
    });
  return async (request) => {
    address ??= listen();
    const { url, method, headers } = request;
    const { pathname, search, host } = new URL(url);
    const body = method === 'GET' || method === 'HEAD' ? null : await request.arrayBuffer();
    // The listener is to see the URL that was asked for; `Host` cannot be set here.
    headers.set('x-forwarded-host', host);
    headers.set('connection', 'close');
    return fetch((await address) + pathname + search, { method, headers, body, redirect: 'manual' });
  };
}
