/** A server for tests of the client: the client’s file, and pages that a test answers itself, under a strict policy. */
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { nodeListener } from 'zip-loom/node';

export interface PagesServer {
  /** `http://127.0.0.1:…` without a slash at its end. */
  address: string;
  close(): Promise<void>;
}

/**
 * @param answer what answers a request for a page
 * @param policy whether pages get the strict policy of these tests; else they have their own
 */
export async function openPagesServer(
  answer: (request: Request) => Promise<Response>,
  { policy = true }: { policy?: boolean } = {},
): Promise<PagesServer> {
  const client = readFileSync('packages/zip-loom/dist/client.min.js');
  const server = createServer(
    nodeListener(async (request) => {
      const { pathname } = new URL(request.url);
      if (pathname === '/client.js') return new Response(client, { headers: { 'content-type': 'text/javascript' } });
      // What it loads when a page needs it.
      if (/^\/client-[a-z-]+\.min\.js$/.test(pathname))
        return new Response(readFileSync(`packages/zip-loom/dist${pathname}`), {
          headers: { 'content-type': 'text/javascript' },
        });
      if (pathname === '/favicon.ico') return new Response(null, { status: 204 });
      const response = await answer(request);
      if (!policy) return response;
      response.headers.set(
        'content-security-policy',
        "default-src 'self'; script-src 'self'; style-src 'self'; require-trusted-types-for 'script'",
      );
      return response;
    }),
  );
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    async close() {
      server.closeAllConnections();
      await new Promise((closed) => server.close(closed));
    },
  };
}
