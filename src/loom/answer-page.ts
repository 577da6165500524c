/** A page for a request: whole, or what of it the browser does not have. */

import type { LoomContext, Recorder, TemplateFacts } from '../page/index.ts';
import { clientCookie, headers as names, orderParameter } from '../protocol/index.ts';
import { isSafeMethod, randomText, readCookie, type Visitor } from '../security/index.ts';
import { type Answer, answerOnly, answerParts, type PartialRequest, pageList } from '../updates/index.ts';
import type { ContentPolicy } from './content-policy.ts';
import type { SendOrder } from './options.ts';
import type { Renderer } from './renderer.ts';

/** What a page is made for. */
export interface PageRequest {
  readonly request: Request;
  readonly context: LoomContext;
  readonly visitor: Visitor;
  /** What the client says, if one asks. */
  readonly asked: PartialRequest | undefined;
  /** What pages are kept to; missing where no policy is wanted. */
  readonly policy: ContentPolicy | undefined;
  /** Keeps regions apart while the page is written; what shows messages is marked in it. */
  readonly recorder: Recorder;
}

type HeaderList = Array<[name: string, value: string]>;

/** The body of an answer, and what goes with it. */
export interface RenderedAnswer {
  body: string | ReadableStream<Uint8Array>;
  headers: HeaderList;
  /** Whether it is less than the page, so that nobody may keep it. */
  isPartial: boolean;
  showsFlash: boolean;
}

/** How a page is answered. */
export interface AnswerOptions {
  status: number;
  order: SendOrder | undefined;
  /** Told of every part that failed after the page had begun to be sent. */
  onFailure(error: unknown): void;
}

/** Renders a page for a request. Throws as the renderer does, for what fails before the first byte. */
export async function renderAnswer(
  renderer: Renderer,
  name: string,
  data: object,
  to: PageRequest,
  { status, order: wanted, onFailure }: AnswerOptions,
): Promise<RenderedAnswer> {
  const found = renderer.orClose(data, () => renderer.find(name, to.context));
  const { facts } = found;
  const { asked, visitor, request, policy } = to;
  const nonce = policy && pageNonce(to, facts);
  const isSafe = isSafeMethod(request.method);
  const hasClient = asked !== undefined || readCookie(request, clientCookie) !== undefined;
  // Digests cost a little, and only a client asks for them.
  const recorder = facts.hasRegions && hasClient ? to.recorder : undefined;
  const mark = facts.hasRegions || facts.hasLateContent ? randomText(6) : undefined;
  // Until its cookie is there nobody knows whether a client runs; and what a client asks for, it merges when it is whole.
  const order = asked ? 'source' : (wanted ?? (hasClient && !asksSourceOrder(request) ? 'late' : 'source'));
  visitor.showPage(name);
  const rendering = renderer.begin(found, data, to.context, {
    security: visitor,
    mark,
    recorder,
    sending:
      order === 'late'
        ? { kind: 'late', wayBack: isSafe ? sourceOrderQuery(request) : undefined }
        : { kind: 'in-place' },
    // What a visitor wrote must not pass for the list of a page that has none.
    atHeadEnd: facts.hasRegions || !hasClient ? undefined : pageList(facts.chain, '', undefined),
  });
  const list = () => (mark && facts.hasRegions ? `${pageList(facts.chain, mark, recorder)}\n` : '');
  const headers: HeaderList = policy ? [[policy.headerName, policy.headerOf(facts.sources, nonce)]] : [];
  if (rendering.isWaiting) rendering.stopWith(request.signal);
  if (rendering.isWaiting && !asked) {
    await rendering.settle();
    // Headers are gone when a part that comes later asks for the token.
    if (facts.usesToken) visitor.token();
    const onPartFailure = (error: unknown) => {
      onFailure(error);
      return renderer.failedPart(error, to.context);
    };
    const body = rendering.stream({ mark: mark ?? '', atEnd: list, onFailure: onPartFailure });
    if (order === 'late') headers.push(['vary', 'Cookie']);
    return { body, headers, isPartial: false, showsFlash: facts.showsFlash };
  }
  if (rendering.isWaiting) await rendering.whole();
  const wholePage = () => ({ body: rendering.text(list()), headers, isPartial: false, showsFlash: facts.showsFlash });
  if (!asked) return wholePage();
  // A page without regions is never part of another.
  let answer: Answer = { kind: isSafe ? 'none' : 'page' };
  if (recorder && mark !== undefined) {
    const token = ofSamePage(asked, facts.chain) ? visitor.tokenInUse() : undefined;
    const page = { name: facts.chain, recorder, mark, token, placed: facts.placed };
    answer = asked.only ? answerOnly(page, asked.only, asked) : answerParts(page, asked, isSafe, status >= 400);
  }
  if (answer.kind !== 'page') return partialAnswer(answer);
  headers.unshift([names.answer, answer.kind]);
  return wholePage();
}

/** What is less than the page: the parts that differ, or nothing. */
function partialAnswer(answer: Exclude<Answer, { kind: 'page' }>): RenderedAnswer {
  const headers: HeaderList = [
    [names.answer, answer.kind],
    ['cache-control', 'no-store'],
  ];
  if (answer.kind === 'none') return { body: '', headers, isPartial: true, showsFlash: false };
  return { body: answer.body, headers, isPartial: true, showsFlash: answer.showsFlash };
}

/**
 * The nonce of a page that a policy is written for. A page that may be kept for others has none: what is in it is told by hashes.
 * One that is a visitor’s alone, or holds code that nobody knows beforehand, has a new one each time.
 */
function pageNonce(
  { context, visitor }: PageRequest,
  { sources, usesToken, showsFlash }: TemplateFacts,
): string | undefined {
  if (
    context.nonce === undefined &&
    (sources.needsNonce || usesToken || (showsFlash && visitor.messages().length > 0))
  ) {
    context.nonce = randomText(16);
    visitor.markPrivate();
  }
  return context.nonce;
}

/** A token of another page means nothing for the forms that stay. */
function ofSamePage({ page }: PartialRequest, chain: string): boolean {
  return page.split(' ')[0] === chain.split(' ')[0];
}

/** Whether a browser that runs no scripts asks. */
export function asksSourceOrder(request: Request): boolean {
  // Most URLs need not be taken apart for this.
  if (!request.url.includes(orderParameter)) return false;
  return new URL(request.url).searchParams.get(orderParameter) === 'source';
}

/** Only the query: a path that begins with two slashes would lead to another site. */
function sourceOrderQuery(request: Request): string {
  const url = new URL(request.url);
  url.searchParams.set(orderParameter, 'source');
  return url.search;
}
