/** A page as an answer: its status, its headers, its cookies. */
import { assertOptions, LoomError, messageOf } from '../../diagnostics/index.ts';
import { refusedStatus } from '../../forms/index.ts';
import { type Reply, ReplyHeaders } from '../../http/index.ts';
import { type AnswerKind, clientCookie, headers as names, vary } from '../../protocol/index.ts';
import { ownOptions } from '../../security/index.ts';
import type { RespondOptions } from '../create/call-options.ts';
import { respondOptionTable } from '../create/option-table.ts';
import { logDiagnostic } from '../log/log.ts';
import { closeSources, formsIn } from '../render/quiet-data.ts';
import type { Renderer } from '../render/renderer.ts';
import { answerDiagnostic } from './answer-diagnostics.ts';
import { asksSourceOrder, type PageRequest, type RenderedAnswer, renderAnswer } from './answer-page.ts';
import type { PageFailure } from './failure-page.ts';
import { failureNumber } from './failures.ts';
import { visitorsPage } from './visitors-page.ts';

/**
 * Makes the answer, at once where the page waits for nothing. An error in the page is logged and answered with status 500. Neither
 * throws nor rejects.
 */
export function pageReply(
  renderer: Renderer,
  name: string,
  data: object,
  to: PageRequest,
  given: RespondOptions | undefined,
): Reply | Promise<Reply> {
  let headers = new ReplyHeaders();
  const sound = (status: number, rendered: RenderedAnswer): Reply => {
    addHeaders(headers, rendered, to);
    if (rendered.showsFlash) to.visitor.markShown();
    const { body, isPartial, parts } = rendered;
    const sent = !isPartial ? 'page' : parts ? 'parts' : 'nothing';
    return renderer.noted(finished(renderer, to, { status, headers, body }), { page: name, sent, parts }, to.incoming);
  };
  const failed = (error: unknown): Reply => failureReply(renderer, to, { error, page: name, data, headers });
  try {
    if (to.prepare) {
      // What forms ask for comes first.
      const ready = to.prepare(data);
      const next = (whole: object) => pageReply(renderer, name, whole, { ...to, prepare: undefined }, given);
      if (ready instanceof Promise) return ready.then(next, failed);
      if (!Object.is(ready, data)) return next(ready);
    }
    if (given !== undefined) assertOptions('respond', given, respondOptionTable);
    const options = ownOptions(given);
    headers = ReplyHeaders.of(options.headers);
    if (!headers.has('content-type')) headers.set('content-type', 'text/html; charset=utf-8');
    headers.append('vary', to.context.isNegotiated ? `${vary}, Accept-Language` : vary);
    const status = assertStatus(options.status === undefined ? statusOf(data) : options.status);
    const rendered = renderAnswer(renderer, name, data, to, {
      status,
      order: options.order,
      onFailure: (error) =>
        renderer.logger.error({ err: error, page: name, url: to.incoming.url }, `A part of the page “${name}” failed.`),
    });
    if (!(rendered instanceof Promise)) return sound(status, rendered);
    return rendered.then((answer) => sound(status, answer)).catch(failed);
  } catch (error) {
    return failed(error);
  }
}

/** The answer where something failed: logged, with status 500. Never throws. */
export function failureReply(
  renderer: Renderer,
  to: PageRequest,
  { error, page, data, headers }: { error: unknown; page: string; data: object; headers: ReplyHeaders },
): Reply {
  closeSources(data);
  const number = failureNumber();
  renderer.logger.error({ err: error, page, url: to.incoming.url, number }, `The page “${messageOf(page)}” failed.`);
  headers.set('content-type', 'text/html; charset=utf-8');
  headers.set('cache-control', 'no-store');
  const kind: AnswerKind = renderer.mode === 'development' ? 'error' : 'failure';
  headers.set(names.answer, kind);
  const body = pageOfFailure(renderer, to, { error, data, number });
  return renderer.noted(finished(renderer, to, { status: 500, headers, body }), { page, sent: 'error' }, to.incoming);
}

/** The page that stands for one that failed. Never throws. */
function pageOfFailure(
  { logger }: Renderer,
  { failurePage, context, visitor }: PageRequest,
  failure: Pick<PageFailure, 'error' | 'data' | 'number'>,
): string {
  try {
    return failurePage({ ...failure, context, security: visitor });
  } catch (cause) {
    logger.error({ err: cause }, 'The page that shows an error failed.');
    return visitorsPage({ status: 500, number: failure.number }, context.locale);
  }
}

/** What belongs to every answer, whole, in parts or failed. */
export function finished(renderer: Renderer, to: PageRequest, { status, headers, body }: Reply): Reply {
  const { incoming, visitor, policy } = to;
  if (policy) addSafeHeaders(headers);
  keepPrivate(headers, renderer, to);
  for (const cookie of visitor.cookies()) headers.append('set-cookie', cookie);
  // This browser runs no scripts now, whatever it did before.
  if (asksSourceOrder(incoming.url)) headers.append('set-cookie', `${clientCookie}=; Path=/; Max-Age=0; SameSite=Lax`);
  // RFC 9110 §9.3.2: the answer to HEAD is that to GET without its content. Answers of some statuses have none (§15).
  const hasContent = incoming.method !== 'HEAD' && !statusesWithoutContent.has(status);
  if (!hasContent && typeof body === 'object') body.cancel();
  return { status, headers, body: hasContent ? body : undefined };
}

function addHeaders(headers: ReplyHeaders, rendered: RenderedAnswer, { policy }: PageRequest): void {
  for (const [header, value] of rendered.headers) {
    if (header === 'vary') headers.append(header, value);
    // A policy of the handler’s own is what it wants.
    else if (header !== policy?.headerName || !headers.has(header)) headers.set(header, value);
  }
  if (rendered.isPartial) headers.delete('etag');
  // A proxy that collects an answer would hold back what is sent while the page waits for the rest.
  if (typeof rendered.body === 'object' && !headers.has('x-accel-buffering')) headers.set('x-accel-buffering', 'no');
}

/** A page is what its type says, and its URL is not told to other sites. */
function addSafeHeaders(headers: ReplyHeaders): void {
  headers.set('x-content-type-options', 'nosniff');
  if (!headers.has('referrer-policy')) headers.set('referrer-policy', 'strict-origin-when-cross-origin');
}

/** What is one visitor’s must not be kept for another, nor for a page that is gone back to after signing out. */
function keepPrivate(headers: ReplyHeaders, { logger }: Renderer, { incoming, visitor }: PageRequest): void {
  if (!visitor.isPrivate) return;
  const said = headers.get('cache-control');
  if (said === undefined) headers.set('cache-control', 'private, no-store');
  else if (!/\b(?:private|no-store)\b/i.test(said))
    logDiagnostic(logger, answerDiagnostic('refused-caching', { header: said }), { url: incoming.url });
}

/** The status of a page by what it shows: a form anywhere in its data that was refused gives it its own. */
function statusOf(data: object): number {
  for (const form of formsIn(data)) {
    const status = refusedStatus(form);
    if (status !== undefined) return status;
  }
  return 200;
}

const statusesWithoutContent = new Set([204, 205, 304]);

/** @throws {LoomError} for a number that is no status of an answer (RFC 9110 §15) */
function assertStatus(status: number): number {
  if (Number.isInteger(status) && status >= 200 && status <= 599) return status;
  throw new LoomError(answerDiagnostic('invalid-status', { status: messageOf(status) }));
}
