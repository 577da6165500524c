/** Makes the exchanges of one loom, of requests. */

import { anyRecord, assertArgument } from '../../diagnostics/index.ts';
import type { FileKeeper } from '../../forms/index.ts';
import {
  assertRequest,
  carriesIncoming,
  type IncomingRequest,
  incomingOf,
  type ServerObjects,
} from '../../http/index.ts';
import { isPromise, type LoomContext } from '../../kernel/index.ts';
import { comesOverTLS, publicOrigin, type Sealer, type SiteSettings, Visitor } from '../../security/index.ts';
import type { LoomOptions } from '../create/options.ts';
import { logDiagnostic } from '../log/log.ts';
import type { ContentPolicy } from '../policy/content-policy.ts';
import type { Renderer } from '../render/renderer.ts';
import type { IdempotencyStore } from '../submission/idempotency.ts';
import { answerDiagnostic } from './answer-diagnostics.ts';
import type { ChannelDoor } from './channel-door.ts';
import { type Exchange, newExchange } from './exchange.ts';
import type { FailurePage } from './failure-page.ts';
import type { ErrorPage } from './failures.ts';
import type { Languages } from './languages.ts';

/** What the exchanges of one loom share. */
export interface ExchangeSettings {
  renderer: Renderer;
  sealer: Sealer;
  site: SiteSettings;
  context: LoomOptions['context'];
  /** What stands for a page that failed. */
  failurePage: FailurePage;
  /** The same for requests by a name that a stranger may own: it says nothing of the project. */
  strangersPage: FailurePage;
  /** The page for a request that was refused. */
  errorPage: ErrorPage;
  policy: ContentPolicy | undefined;
  keeper: FileKeeper | undefined;
  /** Of the channels that this loom has. */
  door: ChannelDoor;
  /** Those of the site. */
  languages: Languages;
  idempotency: IdempotencyStore;
}

/** So many requests tell whether browsers reach a site over TLS. */
const mostLooks = 1000;

/** Makes an exchange of a request: its context first, which may have to be waited for. */
export function exchangeMaker(
  settings: ExchangeSettings,
): (request: Request, server?: ServerObjects) => Exchange | Promise<Exchange> {
  const { renderer, sealer, site, context } = settings;
  let looks = site.origin !== undefined || site.proxies > 0 ? 0 : mostLooks;
  const noteTLS = (request: IncomingRequest) => {
    if (looks === 0) return;
    looks -= 1;
    if (!comesOverTLS(request)) return;
    // It is said once.
    looks = 0;
    logDiagnostic(renderer.logger, answerDiagnostic('missing-origin'));
  };
  const others = { ...settings, failurePage: settings.strangersPage };
  let isSaid = false;
  const isForDevelopers = (incoming: IncomingRequest): boolean => {
    if (!renderer.tools || renderer.tools.isForDevelopers(incoming, site.origin)) return true;
    if (!isSaid) logDiagnostic(renderer.logger, answerDiagnostic('unknown-host', { host: new URL(incoming.url).host }));
    isSaid = true;
    return false;
  };
  return (request, server) => {
    if (!carriesIncoming(request)) assertRequest(request);
    if (server !== undefined) assertArgument('exchange', 'object of the server', server, anyRecord);
    const incoming = incomingOf(request);
    renderer.tools?.begun(incoming);
    const make = (own: LoomContext | undefined) => {
      noteTLS(incoming);
      const visitor = new Visitor(incoming, sealer, publicOrigin(incoming, site));
      return newExchange(incoming, own, visitor, isForDevelopers(incoming) ? settings : others);
    };
    const own = context?.(request, server ? { ...incoming.server, ...server } : incoming.server);
    return isPromise(own) ? Promise.resolve(own).then(make) : make(own);
  };
}
