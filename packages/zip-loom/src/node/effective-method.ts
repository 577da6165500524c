/** The methods that forms mean, for routers that look at `req.method`. */
import type { IncomingMessage } from 'node:http';
import { anyText, assertOptions } from '../diagnostics/index.ts';
import { methodMeant, siteSettings } from '../security/index.ts';
import { headerOf, targetOf } from './incoming-head.ts';

/** Which methods a form may have. */
export interface EffectiveMethodOptions {
  /** This site’s origin as browsers see it, where a proxy hides it: `https://harbour.example`. */
  origin?: string;
}

/**
 * Middleware that gives a POST the method that its form means (`_method` in the query: put, patch, delete), where it is proved to come
 * from this site. It belongs before the router.
 * @throws {LoomError} for an origin that is none
 * @example app.use(effectiveMethodMiddleware());
 */
export function effectiveMethodMiddleware(
  options: EffectiveMethodOptions = {},
): (req: IncomingMessage, res: unknown, next: () => void) => void {
  assertOptions('effectiveMethodMiddleware', options, { origin: anyText });
  const { origin: known } = siteSettings(options);
  return (req, _res, next) => {
    const target = req.method === 'POST' ? targetOf(req) : undefined;
    if (target) req.method = methodMeant({ method: 'POST', ...target, header: (name) => headerOf(req, name) }, known);
    next();
  };
}
