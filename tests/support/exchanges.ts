/** A browser’s part in tests: pages are asked for, forms are sent back with their hidden fields and cookies. */

import { createLoom, type Exchange, type Loom, type LoomOptions } from 'zip-loom';
import { secret } from './settings.ts';

export const site = 'http://harbour.test';

export interface Visitor {
  loom: Loom;
  /** Everything that was logged, as codes. */
  logged: string[];
  /** Asks for a page, keeps the cookies, and gives the text. */
  page(respond: (exchange: Exchange) => Promise<Response>): Promise<string>;
  /** The hidden fields of the last page’s first form. */
  hidden: Record<string, string>;
  cookies: Map<string, string>;
  /** A request that sends fields as a form of this site would. */
  request(fields: string | URLSearchParams | Array<[string, string]>, options?: RequestOptions): Request;
  /** The exchange of such a request. */
  send(fields: string | URLSearchParams | Array<[string, string]>, options?: RequestOptions): Promise<Exchange>;
  /** Keeps the cookies of an answer. */
  keep(response: Response): Response;
}

interface RequestOptions {
  path?: string;
  method?: string;
  headers?: Record<string, string>;
  /** Leaves the hidden fields out. */
  bare?: boolean;
}

export async function visitor(sources: Record<string, string>, options: LoomOptions = {}): Promise<Visitor> {
  const logged: string[] = [];
  const note = (details: object) => logged.push((details as { code?: string }).code ?? 'error');
  const loom = await createLoom({ sources, secret, logger: { warn: note, error: note }, ...options });
  const self: Visitor = {
    loom,
    logged,
    hidden: {},
    cookies: new Map(),
    async page(respond) {
      const exchange = await loom.exchange(
        new Request(`${site}/`, { headers: { cookie: cookieHeader(self.cookies) } }),
      );
      const text = await self.keep(await respond(exchange)).text();
      self.hidden = Object.fromEntries(
        [...text.matchAll(/<input type="hidden" name="(loom-\w+)" value="([^"]*)">/g)].map((found) => [
          found[1]!,
          found[2]!,
        ]),
      );
      return text;
    },
    request(fields, { path = '/', method = 'POST', headers = {}, bare = false } = {}) {
      const body =
        fields instanceof URLSearchParams || typeof fields === 'string'
          ? String(fields)
          : String(new URLSearchParams(fields));
      const own = bare ? '' : String(new URLSearchParams(self.hidden));
      return new Request(new URL(path, site), {
        method,
        body: [own, body].filter((part) => part !== '').join('&'),
        headers: {
          'content-type': 'application/x-www-form-urlencoded',
          'sec-fetch-site': 'same-origin',
          cookie: cookieHeader(self.cookies),
          ...headers,
        },
      });
    },
    send: (fields, requestOptions) => loom.exchange(self.request(fields, requestOptions)),
    keep(response) {
      for (const line of response.headers.getSetCookie()) {
        const [pair = ''] = line.split(';');
        const [name = '', value = ''] = pair.split('=');
        if (value === '') self.cookies.delete(name);
        else self.cookies.set(name, value);
      }
      return response;
    },
  };
  return self;
}

function cookieHeader(cookies: ReadonlyMap<string, string>): string {
  return [...cookies].map(([name, value]) => `${name}=${value}`).join('; ');
}
