/** A page for a request: whole, or what of it the browser does not have. */

import type { IncomingRequest, TextSource } from '../../http/index.ts';
import type { Recorder, TemplateFacts } from '../../kernel/index.ts';
import { clientCookie, headers as names, orderParameter, pageRegion } from '../../protocol/index.ts';
import { isSafeMethod, randomText, type Visitor } from '../../security/index.ts';
import { type Answer, answerOnly, answerParts, type PartialRequest, pageList } from '../../updates/index.ts';
import type { SendOrder } from '../create/options.ts';
import type { ChannelState } from '../development/channel-watch.ts';
import type { ContentPolicy } from '../policy/content-policy.ts';
import { pageSource } from '../render/page-source.ts';
import { closeSources } from '../render/quiet-data.ts';
import type { FoundPage, Renderer } from '../render/renderer.ts';
import type { Rendering } from '../render/rendering.ts';
import type { FailurePage } from './failure-page.ts';
import type { RequestContext } from './request-context.ts';

/** What a page is made for. */
export interface PageRequest {
  readonly incoming: IncomingRequest;
  readonly context: RequestContext;
  readonly visitor: Visitor;
  /** What the client says, if one asks. */
  readonly asked: PartialRequest | undefined;
  /** What pages are kept to; missing where no policy is wanted. */
  readonly policy: ContentPolicy | undefined;
  /** What stands for a page that failed. */
  readonly failurePage: FailurePage;
  /** How far channels were when the request came; missing where there are none. */
  readonly channels?: ChannelState | undefined;
  /** Makes what keeps regions apart while the page is written; what shows messages is marked in it. */
  record(): Recorder;
  /** The data with its forms ready for this reader; the same where it holds none. */
  readonly prepare?: ((data: object) => Promise<object> | object) | undefined;
}

type HeaderList = Array<[name: string, value: string]>;

/** The body of an answer, and what goes with it. */
export interface RenderedAnswer {
  body: string | TextSource;
  headers: HeaderList;
  /** Whether it is less than the page, so that nobody may keep it. */
  isPartial: boolean;
  /** Names of the regions that it consists of; missing for a whole page. */
  parts?: readonly string[];
  showsFlash: boolean;
}

/** How a page is answered. */
export interface AnswerOptions {
  status: number;
  order: SendOrder | undefined;
  /** Told of every part that failed after the page had begun to be sent. */
  onFailure(error: unknown): void;
}

/** Renders a page for a request, at once where it waits for nothing. Throws or rejects as the renderer, for what fails before the first byte. */
export function renderAnswer(
  renderer: Renderer,
  name: string,
  data: object,
  to: PageRequest,
  options: AnswerOptions,
): RenderedAnswer | Promise<RenderedAnswer> {
  const found = renderer.orClose(data, () => renderer.find(name, to.context));
  if (isElsewhere(found, to)) {
    closeSources(data);
    return partialAnswer({ kind: 'none' });
  }
  const begun = beginAnswer(renderer, found, data, to, options);
  return begun.rendering.isWaiting ? waitingAnswer(begun, renderer, to, options) : wholeAnswer(begun, to, options);
}

/** Whether the client is on another page than this one, so that it has to go there itself: nothing of the page need run. */
function isElsewhere({ facts }: FoundPage, { asked, incoming }: PageRequest): boolean {
  // Whoever asks on behalf of the whole page takes another one too.
  if (!asked || asked.only !== undefined || asked.region === pageRegion || !isSafeMethod(incoming.method)) return false;
  return !facts.hasRegions || asked.page !== facts.chain;
}

/** A page whose synchronous code has run. */
interface BegunAnswer {
  name: string;
  renderer: Renderer;
  rendering: Rendering;
  facts: TemplateFacts;
  /** Proves regions and lists to be the server’s. */
  mark: string | undefined;
  recorder: Recorder | undefined;
  order: SendOrder;
  headers: HeaderList;
  channels: ChannelState | undefined;
}

function beginAnswer(
  renderer: Renderer,
  found: FoundPage,
  data: object,
  to: PageRequest,
  { order: wanted }: AnswerOptions,
): BegunAnswer {
  const { facts, name } = found;
  const { asked, visitor, incoming, policy } = to;
  const nonce = policy && pageNonce(to, facts);
  const hasClient = asked !== undefined || visitor.cookie(clientCookie) !== undefined;
  // Digests cost a little, and only a client asks for them: the first page is shown before its cookie is there.
  const recorder = facts.hasRegions && (hasClient || isShown(incoming)) ? to.record() : undefined;
  const mark = facts.hasRegions || facts.hasLateContent ? randomText(6) : undefined;
  // Until its cookie is there nobody knows whether a client runs; and what a client asks for, it merges when it is whole.
  const order = asked ? 'source' : (wanted ?? (hasClient && !asksSourceOrder(incoming.url) ? 'late' : 'source'));
  visitor.showPage(name);
  const rendering = renderer.begin(found, data, to.context, {
    security: visitor,
    mark,
    recorder,
    isInspected: renderer.tools?.isInspected(incoming, visitor) ?? false,
    sending: order === 'late' ? { kind: 'late', wayBack: wayBackOf(incoming, facts) } : inPlace,
    // What a visitor wrote must not pass for the list of a page that has none.
    atHeadEnd: facts.hasRegions || !hasClient ? undefined : pageList(facts.chain, '', undefined),
  });
  const headers: HeaderList = policy ? [[policy.headerName, policy.headerOf(facts.sources, nonce)]] : [];
  return { name, renderer, rendering, facts, mark, recorder, order, headers, channels: to.channels };
}

/** Whether a browser asks, to show the page (Fetch Metadata; elsewhere, and where the connection is not secure, by the type it wants). */
function isShown(incoming: IncomingRequest): boolean {
  const destination = incoming.header('sec-fetch-dest');
  if (destination !== undefined) return destination === 'document' || destination === 'iframe';
  return incoming.header('accept')?.includes('text/html') ?? false;
}

const inPlace = { kind: 'in-place' } as const;

/** The page in source order, where it may have to be gone back to. */
function wayBackOf({ method, url }: IncomingRequest, { hasLateContent }: TemplateFacts): string | undefined {
  return hasLateContent && isSafeMethod(method) ? sourceOrderQuery(url) : undefined;
}

/** The markup before the end of a whole page, written when its forms are: it names the token that they hold. */
function listOf({ facts, mark, recorder, channels }: BegunAnswer, { visitor }: PageRequest): string {
  const more = { channels, token: visitor.shownToken };
  return mark !== undefined && facts.hasRegions ? `${pageList(facts.chain, mark, recorder, more)}\n` : '';
}

/** What the page has nowhere to show, in development. */
function notesOn({ name, renderer, rendering, facts, channels }: BegunAnswer, { visitor }: PageRequest): string {
  const { tools, logger } = renderer;
  if (!tools) return '';
  const { usesChannels } = rendering;
  const messages = facts.showsFlash ? [] : visitor.messages();
  return tools.pageNotes({ page: name, messages, usesChannels, channels }, logger);
}

/** What is before the end of a whole page. */
function endOf(begun: BegunAnswer, to: PageRequest): string {
  return notesOn(begun, to) + listOf(begun, to);
}

async function waitingAnswer(
  begun: BegunAnswer,
  renderer: Renderer,
  to: PageRequest,
  options: AnswerOptions,
): Promise<RenderedAnswer> {
  const { rendering, facts, mark, order, headers } = begun;
  if (to.asked) {
    // Of a page that is sent while it comes, the server says itself that nobody reads on.
    to.incoming.onLeave(() => rendering.abandon());
    await rendering.whole();
    return wholeAnswer(begun, to, options);
  }
  await rendering.settle();
  // Headers are gone when a part that comes later asks for the token.
  if (facts.usesToken) to.visitor.token();
  const onFailure = (error: unknown) => {
    options.onFailure(error);
    return renderer.failedPart(error, to.context);
  };
  const body = pageSource(rendering, { mark: mark ?? '', atEnd: () => endOf(begun, to), onFailure });
  if (order === 'late') headers.push(['vary', 'Cookie']);
  return { body, headers, isPartial: false, showsFlash: facts.showsFlash };
}

function wholeAnswer(begun: BegunAnswer, to: PageRequest, { status }: AnswerOptions): RenderedAnswer {
  const { rendering, facts, mark, recorder, headers } = begun;
  const { asked, visitor, incoming } = to;
  if (asked) {
    const isSafe = isSafeMethod(incoming.method);
    // A page without regions is never part of another.
    let answer: Answer = { kind: isSafe && asked.region !== pageRegion ? 'none' : 'page' };
    if (recorder && mark !== undefined) {
      const token = ofSamePage(asked, facts.chain) ? visitor.tokenInUse() : undefined;
      const page = { name: facts.chain, recorder, mark, token, placed: facts.placed, channels: to.channels };
      answer = asked.only ? answerOnly(page, asked.only, asked) : answerParts(page, asked, isSafe, status >= 400);
    }
    if (answer.kind !== 'page') {
      // There is no place for notes, and what asks again and again would repeat them.
      if (!asked.only) notesOn(begun, to);
      return partialAnswer(answer);
    }
    headers.unshift([names.answer, answer.kind]);
  }
  return { body: rendering.text(() => endOf(begun, to)), headers, isPartial: false, showsFlash: facts.showsFlash };
}

/** What is less than the page: the parts that differ, or nothing. */
function partialAnswer(answer: Exclude<Answer, { kind: 'page' }>): RenderedAnswer {
  const headers: HeaderList = [
    [names.answer, answer.kind],
    ['cache-control', 'no-store'],
  ];
  if (answer.kind === 'none') return { body: '', headers, isPartial: true, showsFlash: false };
  return { body: answer.body, headers, isPartial: true, parts: answer.sent, showsFlash: answer.showsFlash };
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
  const name = page.indexOf(' ') === -1 ? page : page.slice(0, page.indexOf(' '));
  return chain.startsWith(name) && (chain.length === name.length || chain[name.length] === ' ');
}

/** Whether a browser that runs no scripts asks. */
export function asksSourceOrder(url: string): boolean {
  // Most URLs need not be taken apart for this.
  if (!url.includes(orderParameter)) return false;
  return new URL(url).searchParams.get(orderParameter) === 'source';
}

/** Only the query: a path that begins with two slashes would lead to another site. */
function sourceOrderQuery(href: string): string {
  const url = new URL(href);
  url.searchParams.set(orderParameter, 'source');
  return url.search;
}
