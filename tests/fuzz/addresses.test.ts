/** URLs that need not be taken apart are those that a browser leaves as they are: wherever one is short for the other, both agree. */
import type { Server } from 'node:http';
import { createServer } from 'node:http';
import { type AddressInfo, connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createLoom } from 'zip-loom';
import { nodeListener } from 'zip-loom/node';
import { quietLogger, secret } from '../support/settings.ts';

/** Pieces that matter to parsers of URLs, and some that do not. */
const pieces = [
  '/',
  '//',
  '.',
  '..',
  '%2e',
  '%2E%2e',
  '%',
  '%4',
  '%41',
  '\\',
  '?',
  '#',
  ':',
  '@',
  '&',
  '=',
  '+',
  '*',
  "'",
  '"',
  '<',
  '|',
  '^',
  '~',
  ';',
  ',',
  '!',
  '[',
  'a',
  'B',
  '0',
  'é',
  'evil.test',
  'http:',
  '_method=put',
];
const paths = fc.array(fc.constantFrom(...pieces), { maxLength: 8 }).map((parts) => `/${parts.join('')}`);

function parsed(href: string, base: string): URL | undefined {
  try {
    return new URL(href, base);
  } catch {
    return undefined;
  }
}

test('redirects go where a browser would, or to the start page, and stay on the site', async () => {
  const loom = await createLoom({ sources: { 'pages/page.html': '' }, secret, logger: quietLogger });
  const base = 'http://harbour.test/a/b?c';
  const exchange = await loom.exchange(new Request(base));
  fc.assert(
    fc.property(paths, (to) => {
      const location = exchange.redirect(to).headers.get('location')!;
      const seen = new URL(location, base);
      expect(seen.origin).toBe('http://harbour.test');
      const meant = parsed(to, base);
      const leadsAway = meant?.origin !== seen.origin || meant.pathname.startsWith('//');
      const isSuspicious = /\\|^\/\//.test(to);
      if (leadsAway || isSuspicious) expect(location).toBe('/');
      else
        expect([location[0], seen.pathname + seen.search + seen.hash]).toEqual([
          '/',
          meant.pathname + meant.search + meant.hash,
        ]);
    }),
    { numRuns: 3000 },
  );
});

describe('a listener', () => {
  let server: Server;
  let seen: string[] = [];
  beforeAll(async () => {
    server = createServer(
      nodeListener((request) => {
        seen.push(request.url);
        return new Response('x');
      }),
    );
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  });
  afterAll(() => {
    server.closeAllConnections();
    server.close();
  });

  test('gives URLs as the standard writes them, on the host that was asked for', async () => {
    const targets = fc.sample(paths, { numRuns: 400, seed: 14 }).filter((path) => !/[^!-~]/.test(path));
    seen = [];
    const head = (target: string) => `GET ${target} HTTP/1.1\r\nHost: harbour.test\r\n\r\n`;
    const socket = connect((server.address() as AddressInfo).port, '127.0.0.1');
    for (const target of targets) {
      const before = seen.length;
      const answered = new Promise((resolve) => socket.once('data', resolve));
      socket.write(head(target));
      await answered;
      const meant = new URL('http://harbour.test/');
      const query = target.indexOf('?');
      meant.pathname = query === -1 ? target : target.slice(0, query);
      meant.search = query === -1 ? '' : target.slice(query);
      expect([target, ...seen.slice(before)]).toEqual([target, meant.href]);
    }
    socket.destroy();
  });
});
