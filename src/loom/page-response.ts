/** A page as a `Response`: its status, its headers, its cookies. */
import { LoomError, messageOf } from '../diagnostics/index.ts';
import { refusedStatus } from '../forms/index.ts';
import { type AnswerKind, clientCookie, headers as names, vary } from '../protocol/index.ts';
import { asksSourceOrder, type PageRequest, type RenderedAnswer, renderAnswer } from './answer-page.ts';
import { loomDiagnostic } from './diagnostics.ts';
import { textResponse } from './known-text.ts';
import { logDiagnostic } from './log.ts';
import type { SendOrder } from './options.ts';
import { closeSources } from './quiet-data.ts';
import type { Renderer } from './renderer.ts';

export interface RespondOptions {
  /** Default: 200, or the status of a form among the data that was refused. */
  status?: number;
  headers?: HeadersInit;
  /**
   * Where content with `(await …)` and `(meanwhile)` goes: in its place, or `late`, at the end of the page. Default: `late` for
   * browsers that are known to run the client.
   */
  order?: SendOrder;
}

/** Makes the response. An error in the page is logged and answered with status 500. */
export async function pageResponse(
  renderer: Renderer,
  name: string,
  data: object,
  to: PageRequest,
  options: RespondOptions,
): Promise<Response> {
  const { request, visitor, policy } = to;
  let headers = new Headers();
  let status = 500;
  let body: RenderedAnswer['body'];
  try {
    headers = new Headers(options.headers);
    if (!headers.has('content-type')) headers.set('content-type', 'text/html; charset=utf-8');
    headers.append('vary', vary);
    status = assertStatus(options.status ?? statusOf(data));
    const rendered = await renderAnswer(renderer, name, data, to, {
      status,
      order: options.order,
      onFailure: (error) =>
        renderer.logger.error({ err: error, page: name, url: request.url }, `A part of the page “${name}” failed.`),
    });
    addHeaders(headers, rendered, to);
    if (rendered.showsFlash) visitor.markShown();
    body = rendered.body;
  } catch (error) {
    closeSources(data);
    renderer.logger.error({ err: error, page: name, url: request.url }, `The page “${name}” failed.`);
    headers.set('content-type', 'text/html; charset=utf-8');
    headers.set('cache-control', 'no-store');
    const kind: AnswerKind = renderer.mode === 'development' ? 'error' : 'failure';
    headers.set(names.answer, kind);
    status = 500;
    body = renderer.pageOfError(error, data);
  }
  if (policy) addSafeHeaders(headers);
  keepPrivate(headers, renderer, to);
  for (const cookie of visitor.cookies()) headers.append('set-cookie', cookie);
  // This browser runs no scripts now, whatever it did before.
  if (asksSourceOrder(request)) headers.append('set-cookie', `${clientCookie}=; Path=/; Max-Age=0; SameSite=Lax`);
  // RFC 9110 §9.3.2: the answer to HEAD is that to GET without its content. Answers of some statuses have none (§15).
  if (request.method === 'HEAD' || statusesWithoutContent.has(status)) {
    if (typeof body !== 'string') await body.cancel();
    return new Response(null, { status, headers });
  }
  return typeof body === 'string' ? textResponse(body, { status, headers }) : new Response(body, { status, headers });
}

function addHeaders(headers: Headers, rendered: RenderedAnswer, { policy }: PageRequest): void {
  for (const [header, value] of rendered.headers) {
    if (header === 'vary') headers.append(header, value);
    // A policy of the handler’s own is what it wants.
    else if (header !== policy?.headerName || !headers.has(header)) headers.set(header, value);
  }
  if (rendered.isPartial) headers.delete('etag');
}

/** A page is what its type says, and its URL is not told to other sites. */
function addSafeHeaders(headers: Headers): void {
  headers.set('x-content-type-options', 'nosniff');
  if (!headers.has('referrer-policy')) headers.set('referrer-policy', 'strict-origin-when-cross-origin');
}

/** What is one visitor’s must not be kept for another, nor for a page that is gone back to after signing out. */
function keepPrivate(headers: Headers, { logger }: Renderer, { request, visitor }: PageRequest): void {
  if (!visitor.isPrivate) return;
  const said = headers.get('cache-control');
  if (said === null) headers.set('cache-control', 'private, no-store');
  else if (!/\b(?:private|no-store)\b/i.test(said))
    logDiagnostic(logger, loomDiagnostic('refused-caching', { header: said }), { url: request.url });
}

/** The status of a page by what it shows: a form among its data that was refused gives it its own. */
function statusOf(data: object): number {
  for (const { value } of Object.values(Object.getOwnPropertyDescriptors(data))) {
    const status = refusedStatus(value);
    if (status !== undefined) return status;
  }
  return 200;
}

const statusesWithoutContent = new Set([204, 205, 304]);

/** @throws {LoomError} for a number that is no status of an answer (RFC 9110 §15) */
function assertStatus(status: number): number {
  if (Number.isInteger(status) && status >= 200 && status <= 599) return status;
  throw new LoomError(loomDiagnostic('invalid-status', { status: messageOf(status) }));
}
