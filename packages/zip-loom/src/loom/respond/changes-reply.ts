/** Changes as an answer: as they come for the client, else what is there when all is done. */
import { assertArgument, assertOptions } from '../../diagnostics/index.ts';
import { type Reply, ReplyHeaders } from '../../http/index.ts';
import { type AnswerKind, headers as names, pageRegion, vary } from '../../protocol/index.ts';
import { isSafeMethod, ownOptions, randomText } from '../../security/index.ts';
import type { ChangesOptions } from '../create/call-options.ts';
import { changesOptionTable } from '../create/option-table.ts';
import { describeError } from '../program/template-errors.ts';
import type { Renderer } from '../render/renderer.ts';
import type { PageRequest } from './answer-page.ts';
import { ChangeSteps } from './change-steps.ts';
import { type ChangesSource, PageToShow } from './changes.ts';
import { ChangesText } from './changes-text.ts';
import { failureReply, finished } from './page-reply.ts';

/** Told at the end whether all was done. */
type Told = (isDone: boolean) => void;

/** @throws {LoomError} for options that are none, and where it is not said what readers without the client are given */
export function assertedFallback(options: ChangesOptions): ChangesOptions['fallback'] {
  assertOptions('changes', options, changesOptionTable);
  const { fallback } = ownOptions<Partial<ChangesOptions>>(options);
  assertArgument('changes', '“fallback”', fallback, changesOptionTable.fallback);
  return fallback as ChangesOptions['fallback'];
}

/**
 * Sends changes as they come; or does their work, for readers without the client. Neither throws nor rejects.
 * @returns a page or a URL for readers who are given that
 */
export async function answerChanges(
  renderer: Renderer,
  source: ChangesSource,
  fallback: ChangesOptions['fallback'],
  to: PageRequest,
  told: Told,
): Promise<Reply | PageToShow | string | URL> {
  try {
    if (wantsChanges(to)) return await changesReply(renderer, source, to, told);
    // What is only looked at need not be done.
    return isSafeMethod(to.incoming.method) ? fallback : ((await doneWork(source, to)) ?? fallback);
  } catch (error) {
    told(false);
    return failureReply(renderer, to, { error, page: 'changes', data: {}, headers: new ReplyHeaders() });
  }
}

/**
 * Whether the changes themselves are wanted: the client asks for a region that the visitor acted in. Who goes back to a page that is
 * only looked at wants the page.
 */
function wantsChanges({ asked, incoming }: PageRequest): boolean {
  if (!asked) return false;
  return !isSafeMethod(incoming.method) || (asked.only === undefined && asked.region !== pageRegion);
}

async function changesReply(renderer: Renderer, source: ChangesSource, to: PageRequest, told: Told): Promise<Reply> {
  const { incoming, visitor } = to;
  const text = new ChangesText(new ChangeSteps(source), renderer, to, randomText(6), {
    done: () => told(true),
    failed: (error) => {
      told(false);
      renderer.logger.error({ err: error, url: incoming.url }, 'An answer of changes failed.');
      return renderer.mode === 'development' ? describeError(error) : '';
    },
  });
  incoming.onLeave(() => text.cancel());
  // Headers are gone when a form in a change asks for the token.
  visitor.token();
  await text.begin();
  const headers = new ReplyHeaders();
  const kind: AnswerKind = 'changes';
  headers.set('content-type', 'text/html; charset=utf-8');
  headers.set(names.answer, kind);
  // Whoever compresses or collects on the way would hold changes back.
  headers.set('cache-control', 'no-store, no-transform');
  headers.set('x-accel-buffering', 'no');
  headers.set('vary', vary);
  return finished(renderer, to, { status: 200, headers, body: text });
}

/** Does the work of a form and shows nothing of it meanwhile. @returns the page that it ends with */
async function doneWork(source: ChangesSource, { incoming }: PageRequest): Promise<PageToShow | undefined> {
  const steps = new ChangeSteps(source);
  incoming.onLeave(() => steps.leave());
  for (let step = await steps.next(); step !== undefined; step = await steps.next()) {
    if (!(step instanceof PageToShow)) continue;
    steps.end();
    return step;
  }
  return undefined;
}
