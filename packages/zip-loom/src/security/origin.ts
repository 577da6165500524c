/** Where an unsafe request comes from (Fetch Metadata; RFC 6454 for `Origin`), and the method that it means. */
import { anyText, assertArgument } from '../diagnostics/index.ts';
import { assertRequest, type IncomingRequest, incomingOf } from '../http/index.ts';
import { methodParameter } from '../protocol/index.ts';

/** `same`: proved to be this site’s. `foreign`: proved to be another’s. `unknown`: the headers do not tell. */
export type Provenance = 'same' | 'foreign' | 'unknown';

/**
 * Tells where a request comes from. A sibling on the same site is another origin.
 * @param origin this site’s origin, as browsers see it
 */
export function provenance(request: Pick<IncomingRequest, 'header'>, origin: string): Provenance {
  const fetchSite = request.header('sec-fetch-site');
  if (fetchSite === 'same-origin') return 'same';
  if (fetchSite !== undefined && fetchSite !== 'none') return 'foreign';
  const sent = request.header('origin');
  if (sent === undefined) return 'unknown';
  return sent === origin ? 'same' : 'foreign';
}

/** Methods that change nothing (RFC 9110 §9.2.1). */
export function isSafeMethod(method: string): boolean {
  return method === 'GET' || method === 'HEAD' || method === 'OPTIONS' || method === 'TRACE';
}

const overrides = new Set(['PUT', 'PATCH', 'DELETE']);

/**
 * The method that a request means: a POST that is proved to come from this site may name PUT, PATCH or DELETE in `_method` of
 * its query, because HTML forms know only GET and POST.
 * @param origin this site’s origin where a proxy hides it; default: that of the request
 * @example if (effectiveMethod(request) === 'DELETE') await removeBoat(id);
 */
export function effectiveMethod(request: Request, origin?: string): string {
  if (typeof request?.method !== 'string' || typeof request.url !== 'string') assertRequest(request);
  if (origin !== undefined) assertArgument('effectiveMethod', 'origin', origin, anyText);
  // Most requests need not be looked at more closely.
  if (request.method !== 'POST' || !request.url.includes(methodParameter)) return request.method;
  return methodMeant(incomingOf(request), origin);
}

/** What an incoming request means by its method. */
export function methodMeant(
  request: Pick<IncomingRequest, 'method' | 'url' | 'origin' | 'header'>,
  origin: string = request.origin,
): string {
  if (request.method !== 'POST' || !request.url.includes(methodParameter)) return request.method;
  const named = new URL(request.url).searchParams.getAll(methodParameter);
  const wished = named[0]?.toUpperCase();
  // Of several none is taken: somebody else than the form may have named one.
  if (named.length !== 1 || wished === undefined || !overrides.has(wished)) return 'POST';
  return provenance(request, origin) === 'same' ? wished : 'POST';
}

/**
 * The request with its effective method, for routers.
 * @example serve({ fetch: (request) => app.fetch(withEffectiveMethod(request)) });
 */
export function withEffectiveMethod(request: Request, origin?: string): Request {
  const method = effectiveMethod(request, origin);
  return method === request.method ? request : new Request(request, { method, duplex: 'half' } as RequestInit);
}
