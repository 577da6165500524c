/** The exchanges of one loom: made of requests, and ended with them. */

import { orderParameter } from '../protocol/index.ts';
import { comesOverTLS, publicURL, type Sealer, type SiteSettings, Visitor } from '../security/index.ts';
import type { ContentPolicy } from './content-policy.ts';
import { loomDiagnostic } from './diagnostics.ts';
import { Exchange } from './exchange.ts';
import { logDiagnostic } from './log.ts';
import type { LoomOptions } from './options.ts';
import type { Renderer } from './renderer.ts';

/** What the exchanges of one loom share. */
export interface ExchangeSettings {
  renderer: Renderer;
  sealer: Sealer;
  site: SiteSettings;
  context: LoomOptions['context'];
  policy: ContentPolicy | undefined;
}

/** Makes exchanges of requests: the context of each first. */
export function exchangeMaker({
  renderer,
  sealer,
  site,
  context,
  policy,
}: ExchangeSettings): (request: Request) => Promise<Exchange> {
  let hasSaid = false;
  const noteTLS = (request: Request, url: URL) => {
    if (hasSaid || site.origin !== undefined || site.proxies > 0 || !comesOverTLS(request, url)) return;
    hasSaid = true;
    logDiagnostic(renderer.logger, loomDiagnostic('missing-origin'));
  };
  return async (request) => {
    const own = (await context?.(request)) ?? {};
    const href = publicURL(request, site);
    noteTLS(request, href);
    const url = new URL(href);
    // Ours, not the page’s: links that keep the query must not carry it on.
    if (url.searchParams.has(orderParameter)) url.searchParams.delete(orderParameter);
    const visitor = new Visitor(request, sealer, href);
    const exchange = new Exchange(request, { url, ...own }, renderer, visitor, policy);
    exchanges.set(request, [...(exchanges.get(request) ?? []), exchange]);
    return exchange;
  };
}

/** Exchanges that were made of a request, so that whoever sends its answer can end them. */
const exchanges = new WeakMap<Request, Exchange[]>();

/** Ends every exchange of a request, once its answer has been sent. */
export async function endExchanges(request: Request): Promise<void> {
  await Promise.all((exchanges.get(request) ?? []).map((exchange) => exchange.end()));
  exchanges.delete(request);
}
