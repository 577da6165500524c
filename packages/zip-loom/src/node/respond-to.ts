/** A page as the answer to a plain `(req, res)` pair. */
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Http2ServerRequest, Http2ServerResponse } from 'node:http2';
import type { DataArguments, DataOf, Loom, PageName, RespondOptions } from '../loom/index.ts';
import { assertPair } from './assert-pair.ts';
import { nodeIncoming } from './incoming.ts';
import { handle, nextOf, refuseURL } from './listener.ts';

/**
 * Answers a request of Node’s, or of a router that works with these, by a page. Headers and cookies that were set before are kept. What
 * goes wrong is given to the router’s `next` where there is one, and else answered with 500. Never rejects.
 * @example app.get('/', (req, res) => respondTo(loom, req, res, 'home', { berths }));
 */
export function respondTo<Name extends PageName>(
  loom: Loom,
  req: IncomingMessage | Http2ServerRequest,
  res: ServerResponse | Http2ServerResponse,
  page: Name,
  ...rest: DataArguments<DataOf<Name>, RespondOptions>
): Promise<void> {
  assertPair('respondTo', loom, req, res);
  const incoming = nodeIncoming(req, res, { standardObjects: false });
  if (!incoming) {
    refuseURL(res);
    return Promise.resolve();
  }
  return new Promise((resolve) => {
    handle(incoming, res, nextOf(req), () => loom.respond(incoming.request, page, ...rest), resolve);
  });
}
